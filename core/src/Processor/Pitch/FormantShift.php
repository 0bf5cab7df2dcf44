<?php

declare(strict_types=1);

namespace Hafen\Processor\Pitch;

use Hafen\Audio\Block;
use Hafen\Dsp\Pitch\PitchSynchronous;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;
use Hafen\Processor\Settles;

/**
 * Moves the pitch of a single voice and keeps its character, or moves the character by itself.
 *
 * Source: E. Moulines, F. Charpentier, Speech Communication 1990, see {@see PitchSynchronous}. For one voice at a time.
 */
final class FormantShift implements Processor, Settles
{
    use ShiftsVoice;

    private float $ratio = 1.0;

    private float $formants = 1.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'formant-shift',
            'Formant-kept shift',
            'Voice', 'Pitch',
            'Moves the pitch of a single voice and keeps its character.',
            [
                ParameterSpec::number('semitones', 'Pitch', 'st', -12.0, 12.0, 0.0, step: 0.01),
                ParameterSpec::number('formants', 'Formants', 'st', -12.0, 12.0, 0.0, step: 0.01),
            ],
            synonyms: ['voice', 'transpose', 'octave', 'formant', 'harmony', 'gender'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return sprintf('Voice %+.1f st', $values->number('semitones'));
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::semitones('Voice', $values->number('semitones'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $shift = $values->number('semitones');

        return Picture::pitch([[-12.0, $shift - 12.0], [12.0, $shift + 12.0]], 24.0);
    }

    public function set(ParameterValues $values): void
    {
        $this->ratio = 2.0 ** ($values->number('semitones') / 12.0);
        $this->formants = 2.0 ** ($values->number('formants') / 12.0);
    }

    public function process(Block $block): void
    {
        $ratio = $this->ratio;
        $this->shift($block, static fn (?float $period): float => $period === null ? 1.0 : $ratio, $this->formants, $ratio !== 1.0 || $this->formants !== 1.0);
    }
}
