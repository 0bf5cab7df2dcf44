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

/** Notes higher or lower, and softer or harder: a curve above 0 makes soft notes harder, below 0 softer. */
final class Transpose implements ChangesNotes, Processor
{
    use MapsKeys;

    private int $semitones = 0;

    private float $bend = 1.0;

    private float $share = 1.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'note-transpose',
            'Transpose and velocity',
            'Transp', 'Notes',
            'Moves notes up or down, and makes them softer or harder.',
            [
                ParameterSpec::number('semitones', 'Transpose', 'st', -48.0, 48.0, 0.0, step: 1.0),
                ParameterSpec::number('curve', 'Velocity curve', '%', -100.0, 100.0, 0.0, step: 1.0),
                ParameterSpec::number('range', 'Velocity range', '%', 0.0, 100.0, 100.0, step: 1.0),
            ],
            synonyms: ['octave', 'pitch', 'velocity', 'notes', 'midi'],
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Transpose '.self::chip($values)->figure;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::semitones('Transp', $values->number('semitones'));
    }

    public function __construct(Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $this->semitones = (int) round($values->number('semitones'));
        $this->bend = 4.0 ** (-$values->number('curve') / 100.0);
        $this->share = $values->number('range') / 100.0;
    }

    private function made(int $key, float $velocity): array
    {
        // What is left of the range lies around the middle, 64.
        return [[$key + $this->semitones, 64.0 / 127.0 + $this->share * ($velocity ** $this->bend - 64.0 / 127.0)]];
    }
}
