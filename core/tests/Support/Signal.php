<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Audio\Block;
use Hafen\Dsp\Noise;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;

/** Signals to test with. */
final class Signal
{
    /** @return list<float> */
    public static function sine(float $frequency, int $count, float $amplitude = 1.0, int $rate = 48000, float $phase = 0.0): array
    {
        $samples = [];
        for ($i = 0; $i < $count; ++$i) {
            $samples[] = $amplitude * sin(2 * M_PI * $frequency * $i / $rate + $phase);
        }

        return $samples;
    }

    /** @return list<float> */
    public static function impulse(int $count, float $amplitude = 1.0): array
    {
        $samples = array_fill(0, $count, 0.0);
        $samples[0] = $amplitude;

        return $samples;
    }

    /** @return list<float> */
    public static function noise(int $count, int $seed = 1, float $amplitude = 0.5): array
    {
        return array_map(static fn (float $sample): float => $sample * $amplitude, (new Noise($seed))->samples($count));
    }

    /**
     * Runs a processor over a signal in blocks of a size.
     *
     * @param  list<float>  $left
     * @param  ?list<float>  $right  null is mono
     */
    public static function through(Processor $processor, array $left, ?array $right = null, int $blockSize = 512): Block
    {
        $out = new Block([], [], $right === null);
        for ($at = 0, $n = count($left); $at < $n; $at += $blockSize) {
            $block = new Block(array_slice($left, $at, $blockSize), $right === null ? [] : array_slice($right, $at, $blockSize), $right === null);
            $processor->process($block);
            if ($out->mono && ! $block->mono) {
                $out->widen();
            }
            $out->left = [...$out->left, ...$block->left];
            $out->right = $out->mono ? [] : [...$out->right, ...$block->right()];
        }

        return $out;
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public static function processor(string $id, array $parameters = [], int $rate = 48000, float $tempo = 120.0): Processor
    {
        return ProcessorCatalogue::standard()->make($id, $parameters, new Setting($rate, $tempo));
    }

    /** @param  list<float>  $samples */
    public static function peak(array $samples): float
    {
        return max(max($samples), -min($samples));
    }

    /** @param  list<float>  $samples */
    public static function rms(array $samples): float
    {
        return sqrt(array_sum(array_map(static fn (float $sample): float => $sample * $sample, $samples)) / count($samples));
    }

    /**
     * Amplitude of one frequency in a signal that holds a whole number of its periods.
     *
     * @param  list<float>  $samples
     */
    public static function amplitudeAt(array $samples, float $frequency, int $rate = 48000): float
    {
        $re = $im = 0.0;
        foreach ($samples as $i => $sample) {
            $re += $sample * cos(2 * M_PI * $frequency * $i / $rate);
            $im += $sample * sin(2 * M_PI * $frequency * $i / $rate);
        }

        return 2 * hypot($re, $im) / count($samples);
    }

    /**
     * Settings away from neutral, so that every processor does something.
     *
     * @return array<string, float|string|bool>
     */
    public static function busy(string $id): array
    {
        return match ($id) {
            'gain' => ['gain' => -3.0, 'polarity' => 'left'],
            'filter' => ['frequency' => 300.0, 'slope' => '30dB'],
            'parametric-eq' => ['high-pass' => true, 'bell-2-gain' => 6.0, 'bell-4-gain' => -5.0, 'high-shelf-gain' => 3.0, 'output' => -2.0],
            'compressor' => ['threshold' => -30.0, 'make-up' => 4.0, 'detector' => 'rms'],
            'limiter' => ['ceiling' => -9.0, 'gain' => 6.0, 'true-peak' => true],
            'drive' => ['drive' => 18.0, 'shape' => 40.0, 'bias' => 20.0, 'tone' => 5000.0],
            'echo' => ['unit' => 'ms', 'time' => 37.0, 'feedback' => 60.0, 'ping-pong' => true],
            'reverb' => ['decay' => 1.0, 'size' => 60.0],
            'chorus' => ['rate' => 3.0, 'depth' => 6.0, 'amount' => 80.0],
            'polarity' => ['inverted' => 'left'],
            'balance' => ['mode' => 'pan', 'position' => 30.0],
            'width' => ['width' => 140.0, 'mid' => -2.0, 'narrow' => true],
            'channels' => ['routing' => 'encode'],
            'tremolo' => ['rate' => 7.0, 'depth' => 80.0, 'shape' => 'square', 'apart' => 90.0],
            'graphic-eq-3' => ['band-100' => 4.0, 'band-10000' => -6.0],
            'graphic-eq-10' => ['band-63' => 4.0, 'band-1000' => -6.0, 'band-8000' => 12.0],
            'graphic-eq-31' => ['band-63' => 4.0, 'band-1000' => -6.0, 'band-1250' => 6.0, 'band-8000' => 12.0],
            'tilt' => ['tilt' => 4.0],
            'sweep-filter' => ['envelope' => 3.0, 'depth' => 2.0, 'rate' => 6.0, 'resonance' => 80.0],
            'telephone' => ['honk' => 9.0],
            'gate' => ['threshold' => -20.0, 'hold' => 5.0, 'sidechain-low' => 300.0],
            'multiband-compressor' => ['low-threshold' => -40.0, 'mid-threshold' => -40.0, 'high-threshold' => -40.0, 'mid-gain' => 3.0],
            'de-esser' => ['threshold' => -40.0],
            'transient-shaper' => ['attack' => 80.0, 'sustain' => -50.0],
            'room' => ['movement' => 100.0],
            'hall' => ['movement' => 100.0, 'decay' => 1.0],
            'plate' => ['movement' => 100.0],
            'spring' => ['decay' => 1.0],
            'micro-delay' => ['left' => 3.0, 'right' => 7.5, 'inverted' => 'right'],
            'flanger' => ['rate' => 3.0, 'feedback' => -60.0],
            'phaser' => ['rate' => 3.0, 'stages' => '12-stages', 'feedback' => 60.0],
            'ensemble' => ['voices' => 5.0, 'detune' => 20.0],
            'vibrato' => ['depth' => 60.0],
            'rotary' => ['speed' => 'fast'],
            'distortion' => ['kind' => 'fuzz', 'tight' => 200.0],
            'tube-stage' => ['drive' => 18.0, 'lean' => 60.0],
            'waveshaper' => ['point-2' => -90.0, 'point-6' => 80.0, 'drive' => 6.0],
            'tape-stage' => ['drive' => 12.0, 'transport' => 'worn'],
            'console-stage' => ['amount' => 80.0, 'place' => 'bus', 'leak' => -40.0],
            'amplifier' => ['gain' => 30.0, 'treble' => 6.0],
            'convolution' => ['response' => 'wooden-studio', 'decay' => '50%'],
            'pitch-correction' => ['key' => 'd', 'scale' => 'minor'],
            'pitch-shift' => ['semitones' => 5.0, 'cents' => 13.0],
            'formant-shift' => ['semitones' => -4.0, 'formants' => 3.0],
            'bit-reducer' => ['bits' => 6.0, 'rate' => 11000.0],
            default => [],
        };
    }
}
