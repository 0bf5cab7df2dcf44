<?php

declare(strict_types=1);

namespace Hafen\Processor\Pitch;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\Butterworth;
use Hafen\Dsp\Pitch\SplicedShift;
use Hafen\Dsp\Pitch\VocoderShift;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;
use Hafen\Processor\Settles;

/**
 * Moves the pitch of any sound up or down, with its formants.
 *
 * Source: for single notes and drums S. Roucos, A. Wilgus, ICASSP 1985, see {@see SplicedShift}; what would end up above half the sample
 * rate is filtered off before, by an eighth-order Butterworth low-pass. For chords J. Laroche, M. Dolson, WASPAA 1999, see
 * {@see VocoderShift}.
 */
final class PitchShift implements Processor, Settles
{
    private const CHORDS = 'chords';

    private readonly SplicedShift $spliced;

    private readonly VocoderShift $vocoder;

    private bool $chords = false;

    private readonly BiquadCascade $before;

    private float $ratio = 1.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'pitch-shift',
            'Pitch shift',
            'Pitch', 'Pitch',
            'Moves the pitch of any sound.',
            [
                ParameterSpec::number('semitones', 'Pitch', 'st', -12.0, 12.0, 0.0, step: 1.0),
                ParameterSpec::number('cents', 'Fine', 'ct', -100.0, 100.0, 0.0, step: 1.0),
                ParameterSpec::choice('material', 'Made for', ['notes' => 'Single notes, drums', self::CHORDS => 'Chords'], 'notes'),
            ],
            synonyms: ['transpose', 'octave', 'detune', 'harmony', 'semitone'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return sprintf('Pitch %+.1f st', self::semitones($values));
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::semitones('Pitch', self::semitones($values));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $shift = self::semitones($values);

        return Picture::pitch([[-12.0, $shift - 12.0], [12.0, $shift + 12.0]], 25.0);
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return $values->choice('material') === self::CHORDS ? VocoderShift::delay($setting->sampleRate) : SplicedShift::DELAY;
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->spliced = new SplicedShift;
        $this->vocoder = new VocoderShift($setting->sampleRate);
        $this->before = new BiquadCascade;
    }

    public function set(ParameterValues $values): void
    {
        $this->ratio = max(0.5, min(2.0, 2.0 ** (self::semitones($values) / 12.0)));
        $chords = $values->choice('material') === self::CHORDS;
        if ($chords !== $this->chords) {
            $this->chords = $chords;
            $this->reset();
        }
        $sections = [];
        if ($this->ratio > 1.0 && ! $chords) {
            foreach (Butterworth::lowPass(0.45 * $this->setting->sampleRate / $this->ratio, 8, $this->setting->sampleRate) as $i => $section) {
                $sections["before {$i}"] = $section;
            }
        }
        $this->before->set($sections);
    }

    public function process(Block $block): void
    {
        if ($this->chords) {
            $this->vocoder->process($block, $this->ratio);

            return;
        }
        $this->before->process($block);
        $this->spliced->process($block, $this->ratio);
    }

    public function reset(): void
    {
        $this->before->reset();
        $this->spliced->reset();
        $this->vocoder->reset();
    }

    public function latency(): int
    {
        return $this->chords ? VocoderShift::delay($this->setting->sampleRate) : SplicedShift::DELAY;
    }

    public function isSettled(): bool
    {
        // Where it splices, and which period it looks at, goes on with time.
        return false;
    }

    public function tail(): int
    {
        return 2 * $this->latency();
    }

    private static function semitones(ParameterValues $values): float
    {
        return $values->number('semitones') + $values->number('cents') / 100.0;
    }
}
