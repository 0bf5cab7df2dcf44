<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Decibel;

/** The two short lines on the chip of an insert: a short name, and the one figure people look for first. */
final readonly class ChipLabel
{
    /** Letters a name has at most, and signs a figure has. */
    public const LONGEST_NAME = 6;

    public const LONGEST_FIGURE = 9;

    public function __construct(public string $name, public string $figure = '')
    {
    }

    /** "+6 dB", "−2.8 dB". */
    public static function decibels(string $name, float $value): self
    {
        return new self($name, str_replace('.0 ', ' ', Decibel::text($value, 'dB', true)));
    }

    /** "110 Hz", "5.5 kHz". */
    public static function frequency(string $name, float $hertz): self
    {
        return new self($name, $hertz < 1000.0 ? round($hertz).' Hz' : round($hertz / 1000.0, $hertz < 9950.0 ? 1 : 0).' kHz');
    }

    /** "40 %". */
    public static function percent(string $name, float $value): self
    {
        return new self($name, str_replace('-', "\u{2212}", (string) round($value)).' %');
    }

    /** "1.8 s". */
    public static function seconds(string $name, float $seconds): self
    {
        return new self($name, number_format($seconds, 1, '.', '').' s');
    }

    /** "+3 st", "−1.5 st". */
    public static function semitones(string $name, float $semitones): self
    {
        $size = (string) round(abs($semitones), 1);

        return new self($name, ($size === '0' ? '' : ($semitones < 0.0 ? "\u{2212}" : '+'))."{$size} st");
    }

    /** How often something repeats in a second, or a note value: "0.6 Hz", "1/4". */
    public static function rate(string $name, ParameterValues $values): self
    {
        return new self($name, NoteValue::rateText($values));
    }
}
