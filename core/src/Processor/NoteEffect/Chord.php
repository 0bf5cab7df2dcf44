<?php

declare(strict_types=1);

namespace Hafen\Processor\NoteEffect;

use Hafen\Processor\ChangesNotes;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/** Plays up to four notes for each one, so many semitones above or below it; 0 is none. */
final class Chord implements ChangesNotes, Processor
{
    use MapsKeys;

    private const ADDED = ['second', 'third', 'fourth'];

    /** @var list<int> semitones of the notes that come to the one played */
    private array $intervals = [];

    private float $softer = 1.0;

    public static function spec(): ProcessorSpec
    {
        $interval = static fn (string $id, string $label, float $default): ParameterSpec => ParameterSpec::number($id, $label, 'st', -24.0, 24.0, $default, step: 1.0);

        return new ProcessorSpec(
            'chord',
            'Chord',
            'Chord', 'Notes',
            'Plays a chord for each note.',
            [$interval('second', 'Second note', 4.0), $interval('third', 'Third note', 7.0), $interval('fourth', 'Fourth note', 0.0), ParameterSpec::number('softer', 'Added notes', '%', 10.0, 100.0, 85.0, step: 1.0)],
            synonyms: ['harmony', 'triad', 'intervals', 'notes', 'midi'],
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Chord '.self::chip($values)->figure;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Chord', implode('', array_map(static fn (int $interval): string => ($interval < 0 ? '' : '+').$interval, self::intervals($values))));
    }

    public function __construct(Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $this->intervals = self::intervals($values);
        $this->softer = $values->number('softer') / 100.0;
    }

    private function made(int $key, float $velocity): array
    {
        return [[$key, $velocity], ...array_map(fn (int $interval): array => [$key + $interval, $velocity * $this->softer], $this->intervals)];
    }

    /** @return list<int> */
    private static function intervals(ParameterValues $values): array
    {
        return array_values(array_filter(array_map(static fn (string $id): int => (int) round($values->number($id)), self::ADDED), static fn (int $interval): bool => $interval !== 0));
    }
}
