<?php

declare(strict_types=1);

namespace Hafen\Processor;

/**
 * What a stereo instance of each processor costs, in per cent of one core at 48 kHz: measured at work, on a quiet machine, by
 * `bin/bench processors --write`; what is played, or follows notes, with four notes held. Other machines are slower or faster, but the ratios hold.
 */
final class Costs
{
    private const PER_CENT = [
        'synthesiser' => 3.01,
        'sampler' => 0.85,
        'struck-bar' => 1.04,
        'arpeggio' => 0.02,
        'note-transpose' => 0.01,
        'note-filter' => 0.01,
        'chord' => 0.01,
        'note-echo' => 0.01,
        'humanise' => 0.01,
        'vocoder' => 2.63,
        'note-resonator' => 0.56,
        'key-filter' => 0.64,
        'note-gate' => 0.10,
        'gain' => 0.07,
        'polarity' => 0.08,
        'balance' => 0.08,
        'width' => 0.28,
        'channels' => 0.08,
        'tremolo' => 0.57,
        'filter' => 0.34,
        'parametric-eq' => 0.58,
        'graphic-eq-3' => 0.34,
        'graphic-eq-10' => 0.77,
        'graphic-eq-31' => 2.35,
        'tilt' => 0.14,
        'sweep-filter' => 0.81,
        'telephone' => 0.43,
        'compressor' => 0.46,
        'limiter' => 2.60,
        'gate' => 0.64,
        'multiband-compressor' => 2.17,
        'de-esser' => 0.88,
        'transient-shaper' => 0.67,
        'echo' => 0.34,
        'reverb' => 1.23,
        'room' => 2.76,
        'hall' => 3.29,
        'plate' => 2.46,
        'spring' => 2.76,
        'convolution' => 12.05,
        'micro-delay' => 0.13,
        'chorus' => 1.83,
        'flanger' => 0.68,
        'phaser' => 1.21,
        'ensemble' => 2.82,
        'vibrato' => 0.64,
        'rotary' => 2.02,
        'drive' => 3.82,
        'distortion' => 3.81,
        'tube-stage' => 3.68,
        'waveshaper' => 3.48,
        'tape-stage' => 1.87,
        'console-stage' => 1.64,
        'amplifier' => 3.79,
        'bit-reducer' => 0.38,
        'pitch-correction' => 9.81,
        'pitch-shift' => 8.98,
        'formant-shift' => 9.17,
    ];

    /** Per cent of one core; null for a processor that was not measured. */
    public static function of(string $processor): ?float
    {
        return self::PER_CENT[$processor] ?? null;
    }
}
