<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

use Hafen\Audio\Decibel;
use Hafen\Processor\ParameterValues;

/** What a note of the synthesiser is made with: times in seconds, shares from 0 to 1, cutoff in Hz, amounts in semitones. */
final readonly class SynthesiserPatch
{
    private function __construct(
        public string $firstWave,
        public string $secondWave,
        public float $secondSemitones,
        public float $secondCents,
        public float $secondShare,
        public float $noise,
        public float $cutoff,
        public float $damping,
        public float $filterAmount,
        public float $keyFollow,
        public float $filterAttack,
        public float $filterDecay,
        public float $filterSustain,
        public float $attack,
        public float $decay,
        public float $sustain,
        public float $release,
        public float $lfoRate,
        public float $lfoPitch,
        public float $lfoCutoff,
        public float $glide,
        public float $velocityShare,
        public float $gain,
    ) {
    }

    public static function of(ParameterValues $values): self
    {
        return new self(
            $values->choice('first-wave'),
            $values->choice('second-wave'),
            $values->number('second-semitones'),
            $values->number('second-cents'),
            $values->number('second-share') / 100.0,
            $values->number('noise') / 100.0,
            $values->number('cutoff'),
            // Source: k = 1 / Q, from a Q of 0.5, no peak at all, to 20.
            2.0 * (0.05 / 2.0) ** ($values->number('resonance') / 100.0),
            $values->number('filter-amount'),
            $values->number('key-follow') / 100.0,
            $values->number('filter-attack') / 1000.0,
            $values->number('filter-decay') / 1000.0,
            $values->number('filter-sustain') / 100.0,
            $values->number('attack') / 1000.0,
            $values->number('decay') / 1000.0,
            $values->number('sustain') / 100.0,
            $values->number('release') / 1000.0,
            $values->number('lfo-rate'),
            $values->number('lfo-pitch'),
            $values->number('lfo-cutoff'),
            $values->number('glide') / 1000.0,
            $values->number('velocity') / 100.0,
            Decibel::toGain($values->number('level')),
        );
    }
}
