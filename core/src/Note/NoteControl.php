<?php

declare(strict_types=1);

namespace Hafen\Note;

/** A movement of a controller in a clip, or of its pitch wheel. */
final readonly class NoteControl
{
    /** Number of the sustain pedal. */
    public const SUSTAIN = 64;

    public const MODULATION = 1;

    public const VOLUME = 7;

    public const EXPRESSION = 11;

    /** Number under which the pitch wheel goes here; MIDI has numbers up to 127. */
    public const BEND = 128;

    /**
     * @param  int  $at  ticks after the start of the clip
     * @param  int  $controller  0 to 127, or {@see BEND}
     * @param  int  $value  0 to 127; of the pitch wheel -8192 to 8191
     */
    public function __construct(public int $at, public int $controller, public int $value)
    {
    }

    /** Where a controller stands that nobody moved: open, or at 0. */
    public static function rest(int $controller): int
    {
        return $controller === self::VOLUME || $controller === self::EXPRESSION ? 127 : 0;
    }

    /** @return list<array{number: int, name: string, lowest: int, highest: int, rest: int}> those that have names, for who draws them */
    public static function named(): array
    {
        return array_map(static fn (int $number): array => [
            'number' => $number,
            'name' => self::name($number),
            'lowest' => $number === self::BEND ? -8192 : 0,
            'highest' => $number === self::BEND ? 8191 : 127,
            'rest' => self::rest($number),
        ], [self::BEND, self::MODULATION, self::EXPRESSION, self::VOLUME, self::SUSTAIN]);
    }

    /** "Sustain pedal", "Controller 74". */
    public static function name(int $controller): string
    {
        return match ($controller) {
            self::MODULATION => 'Modulation wheel',
            self::VOLUME => 'Volume',
            self::EXPRESSION => 'Expression',
            self::SUSTAIN => 'Sustain pedal',
            self::BEND => 'Pitch wheel',
            default => "Controller {$controller}",
        };
    }
}
