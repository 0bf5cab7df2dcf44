<?php

declare(strict_types=1);

namespace Hafen\Processor\Pitch;

use Hafen\Audio\Block;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Pitch\PitchSynchronous;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * Moves the pitch of a single voice and keeps its character, or moves the character by itself.
 *
 * Source: E. Moulines, F. Charpentier, Speech Communication 1990, see {@see PitchSynchronous}. For one voice at a time.
 */
final class FormantShift implements Processor
{
    private readonly PitchSynchronous $voice;

    private readonly DelayLine $plain;

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

        return new Picture(
            'Pitch in, pitch out',
            new Axis('st in', -12.0, 12.0, Scale::Linear),
            new Axis('st out', -24.0, 24.0, Scale::Linear),
            [['label' => 'unchanged', 'points' => [[-12.0, -12.0], [12.0, 12.0]]], ['label' => 'curve', 'points' => [[-12.0, $shift - 12.0], [12.0, $shift + 12.0]]]],
        );
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return PitchSynchronous::delay($setting->sampleRate);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->voice = new PitchSynchronous($setting->sampleRate);
        $this->plain = new DelayLine(PitchSynchronous::delay($setting->sampleRate));
    }

    public function set(ParameterValues $values): void
    {
        $this->ratio = 2.0 ** ($values->number('semitones') / 12.0);
        $this->formants = 2.0 ** ($values->number('formants') / 12.0);
    }

    public function process(Block $block): void
    {
        $plain = clone $block;
        $this->plain->process($plain);
        $ratio = $this->ratio;
        $this->voice->process($block, static fn (?float $period): float => $period === null ? 1.0 : $ratio, $this->formants);
        if ($ratio === 1.0 && $this->formants === 1.0) {
            // Nothing to move: the sound itself.
            $block->left = $plain->left;
            $block->right = $plain->right;
            $block->mono = $plain->mono;
        }
    }

    public function reset(): void
    {
        $this->voice->reset();
        $this->plain->reset();
    }

    public function latency(): int
    {
        return PitchSynchronous::delay($this->setting->sampleRate);
    }

    public function tail(): int
    {
        return 2 * PitchSynchronous::delay($this->setting->sampleRate);
    }
}
