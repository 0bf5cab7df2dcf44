<?php

declare(strict_types=1);

namespace Hafen\Processor;

/**
 * Times in step with the tempo: a quarter lasts 60000/tempo ms, dotted is 3/2 of it, triplet 2/3 (arithmetic).
 */
final class NoteValue
{
    private const QUARTERS = [
        '1/1' => 4.0, '1/2' => 2.0, '1/2.' => 3.0, '1/2t' => 4.0 / 3.0, '1/4' => 1.0, '1/4.' => 1.5, '1/4t' => 2.0 / 3.0,
        '1/8' => 0.5, '1/8.' => 0.75, '1/8t' => 1.0 / 3.0, '1/16' => 0.25, '1/16.' => 0.375, '1/16t' => 1.0 / 6.0,
    ];

    /** The choice of a note value for a processor that can run in step. */
    public static function parameter(string $default): ParameterSpec
    {
        return ParameterSpec::choice('note', 'Note', [
            '1/1' => 'Whole', '1/2' => 'Half', '1/2.' => 'Half dotted', '1/2t' => 'Half triplet',
            '1/4' => 'Quarter', '1/4.' => 'Quarter dotted', '1/4t' => 'Quarter triplet',
            '1/8' => 'Eighth', '1/8.' => 'Eighth dotted', '1/8t' => 'Eighth triplet',
            '1/16' => 'Sixteenth', '1/16.' => 'Sixteenth dotted', '1/16t' => 'Sixteenth triplet',
        ], $default);
    }

    public static function milliseconds(string $note, float $tempo): float
    {
        return self::QUARTERS[$note] * 60000.0 / $tempo;
    }

    /** @return array{ParameterSpec, ParameterSpec, ParameterSpec} the three parameters of a movement's rate */
    public static function rateParameters(float $hertz, float $lowest = 0.05, float $highest = 12.0): array
    {
        return [
            ParameterSpec::choice('unit', 'Rate in', ['hz' => 'Hertz', 'note' => 'Note value'], 'hz'),
            ParameterSpec::number('rate', 'Rate', 'Hz', $lowest, $highest, $hertz, Scale::Logarithmic, 0.01),
            self::parameter('1/4'),
        ];
    }

    /** Turns a second of a movement set with {@see rateParameters()}. */
    public static function rate(ParameterValues $values, float $tempo): float
    {
        return $values->choice('unit') === 'note' ? 1000.0 / self::milliseconds($values->choice('note'), $tempo) : $values->number('rate');
    }

    /** The rate as a label says it: "1/4" or "0.6 Hz". */
    public static function rateText(ParameterValues $values): string
    {
        return $values->choice('unit') === 'note' ? $values->choice('note') : round($values->number('rate'), $values->number('rate') < 1.0 ? 2 : 1).' Hz';
    }
}
