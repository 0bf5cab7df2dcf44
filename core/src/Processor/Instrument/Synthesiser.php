<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

use Hafen\Dsp\Oscillator\BandLimitedWave;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;
use Hafen\Processor\TakesNotes;

/** Subtractive synthesiser: two oscillators and noise, a low-pass filter, two envelopes, an LFO, glide, 16 voices. A note keeps the settings it began with. */
final class Synthesiser implements Positioned, Processor, TakesNotes
{
    use NoLatency;
    use PlaysVoices;

    private const MOST_VOICES = 16;

    private SynthesiserPatch $patch;

    private ?int $lastKey = null;

    public static function spec(): ProcessorSpec
    {
        $time = static fn (string $id, string $label, float $default, string $group, float $max = 5000.0): ParameterSpec => ParameterSpec::number($id, $label, 'ms', 1.0, $max, $default, Scale::Logarithmic, 1.0, $group);
        $share = static fn (string $id, string $label, float $default, string $group): ParameterSpec => ParameterSpec::number($id, $label, '%', 0.0, 100.0, $default, step: 1.0, group: $group);

        return new ProcessorSpec(
            'synthesiser',
            'Synthesiser',
            'Synth', 'Instrument',
            'Plays notes with two oscillators, a filter and envelopes.',
            [
                ParameterSpec::choice('first-wave', 'Wave', BandLimitedWave::WAVES, 'saw', 'Oscillator 1'),
                ParameterSpec::choice('second-wave', 'Wave', BandLimitedWave::WAVES, 'square', 'Oscillator 2'),
                ParameterSpec::number('second-semitones', 'Pitch', 'st', -24.0, 24.0, 0.0, step: 1.0, group: 'Oscillator 2'),
                ParameterSpec::number('second-cents', 'Detune', 'ct', -100.0, 100.0, 7.0, step: 1.0, group: 'Oscillator 2'),
                $share('second-share', 'Share', 40.0, 'Oscillator 2'),
                $share('noise', 'Noise', 0.0, 'Oscillator 2'),
                ParameterSpec::frequency('cutoff', 'Cutoff', 1800.0, group: 'Filter'),
                $share('resonance', 'Resonance', 20.0, 'Filter'),
                ParameterSpec::number('filter-amount', 'Envelope', 'st', -60.0, 60.0, 18.0, step: 1.0, group: 'Filter'),
                $share('key-follow', 'Follows keys', 50.0, 'Filter'),
                $time('filter-attack', 'Attack', 2.0, 'Filter'),
                $time('filter-decay', 'Decay', 400.0, 'Filter'),
                $share('filter-sustain', 'Sustain', 30.0, 'Filter'),
                $time('attack', 'Attack', 4.0, 'Loudness'),
                $time('decay', 'Decay', 600.0, 'Loudness'),
                $share('sustain', 'Sustain', 70.0, 'Loudness'),
                $time('release', 'Release', 250.0, 'Loudness', 10000.0),
                $share('velocity', 'By velocity', 60.0, 'Loudness'),
                ParameterSpec::number('lfo-rate', 'Rate', 'Hz', 0.05, 20.0, 5.0, Scale::Logarithmic, 0.01, 'LFO'),
                ParameterSpec::number('lfo-pitch', 'To pitch', 'ct', 0.0, 200.0, 0.0, step: 1.0, group: 'LFO'),
                ParameterSpec::number('lfo-cutoff', 'To cutoff', 'st', 0.0, 48.0, 0.0, step: 1.0, group: 'LFO'),
                ParameterSpec::number('glide', 'Glide', 'ms', 0.0, 2000.0, 0.0, step: 1.0, group: 'Voices'),
                ParameterSpec::number('voices', 'Voices', '', 1.0, (float) self::MOST_VOICES, (float) self::MOST_VOICES, step: 1.0, group: 'Voices'),
                ParameterSpec::decibels('level', 'Level', -40.0, 6.0, -14.0, 'Voices'),
            ],
            synonyms: ['synth', 'oscillator', 'subtractive', 'saw', 'square', 'notes', 'midi', 'instrument', 'lead', 'pad'],
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Synthesiser '.strtolower(BandLimitedWave::WAVES[$values->choice('first-wave')] ?? '');
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::frequency('Synth', $values->number('cutoff'));
    }

    public static function picture(ParameterValues $values, Setting $setting): ?Picture
    {
        return null;
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->voices = new Voices($this->voice(...), self::MOST_VOICES, $setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $this->patch = SynthesiserPatch::of($values);
        $this->voices->limit((int) round($values->number('voices')));
    }

    public function tail(): int
    {
        // An attack is silent at first, a release is over 90 dB below.
        return (int) ceil(max($this->patch->attack, 1.5 * $this->patch->release) * $this->setting->sampleRate);
    }

    public function reset(): void
    {
        $this->voices->reset();
        $this->lastKey = null;
    }

    private function voice(int $key, float $velocity, int $position): Voice
    {
        $from = $this->lastKey ?? $key;
        $this->lastKey = $key;

        return new SynthesiserVoice($this->patch, $key, $velocity, (float) $from, $this->setting->sampleRate, abs($position) * 7919 + $key);
    }
}
