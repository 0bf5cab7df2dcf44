<?php

declare(strict_types=1);

namespace Hafen\Processor;

/**
 * What a stereo instance of each processor costs, in per cent of one core at 48 kHz: measured at work, on a quiet machine, by
 * `bin/bench processors --write`. Other machines are slower or faster, but the ratios hold.
 */
final class Costs
{
    private const PER_CENT = [
        'trim' => 0.12,
        'polarity' => 0.16,
        'balance' => 0.17,
        'width' => 0.57,
        'channels' => 0.16,
        'tremolo' => 1.20,
        'filter' => 0.63,
        'parametric-eq' => 1.04,
        'graphic-eq-3' => 0.62,
        'graphic-eq-10' => 1.41,
        'graphic-eq-31' => 4.26,
        'tilt' => 0.25,
        'sweep-filter' => 1.68,
        'telephone' => 0.76,
        'compressor' => 0.77,
        'limiter' => 5.54,
        'gate' => 1.10,
        'multiband-compressor' => 4.27,
        'de-esser' => 1.76,
        'transient-shaper' => 1.27,
        'echo' => 0.68,
        'reverb' => 2.58,
        'room' => 5.85,
        'hall' => 7.05,
        'plate' => 5.12,
        'spring' => 5.09,
        'convolution' => 16.34,
        'micro-delay' => 0.13,
        'chorus' => 1.82,
        'flanger' => 0.69,
        'phaser' => 1.20,
        'ensemble' => 2.84,
        'vibrato' => 0.64,
        'rotary' => 2.01,
        'drive' => 4.21,
        'distortion' => 4.18,
        'tube-stage' => 4.08,
        'waveshaper' => 3.99,
        'tape-stage' => 2.15,
        'console-stage' => 1.89,
        'amplifier' => 4.30,
        'bit-reducer' => 0.39,
        'pitch-correction' => 9.78,
        'pitch-shift' => 4.84,
        'formant-shift' => 9.16,
    ];

    /** Per cent of one core; null for a processor that was not measured. */
    public static function of(string $processor): ?float
    {
        return self::PER_CENT[$processor] ?? null;
    }
}
