<?php

declare(strict_types=1);

namespace Hafen\Dsp\Saturation;

use Hafen\Dsp\Filter\HalfBand;

/**
 * Four times the sample rate and back, or twice, for processors that bend the waveform and would alias.
 *
 * Two half-band stages: the first steep (19 kHz kept at 48 kHz, 70 dB down from 29 kHz), the second short, because its
 * images lie far away. One instance serves one side of one path.
 */
final class Oversampler
{
    public const FACTOR = 4;

    /** Delay of up and down together, in samples of the base rate; the second stage's is halved, with one held sample. */
    public const DELAY = 23 + (7 + 1) / 2;

    /** The same for twice the rate. */
    public const DELAY_TWICE = 23;

    /** Samples after which nothing is left of what was heard: both ways through both stages. */
    public const MEMORY = 128;

    private HalfBand $first;

    private HalfBand $second;

    /** One sample at twice the rate, so that the whole delay is a whole number of samples. */
    private float $held = 0.0;

    /** @param  bool  $isTwice  the first stage alone: enough for curves that bend softly */
    public function __construct(private readonly bool $isTwice = false)
    {
        $this->first = new HalfBand(steep: true);
        $this->second = new HalfBand(steep: false);
    }

    public function reset(): void
    {
        $this->first->reset();
        $this->second->reset();
        $this->held = 0.0;
    }

    /** A copy goes on by itself from what was heard. */
    public function __clone()
    {
        $this->first = clone $this->first;
        $this->second = clone $this->second;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    public function up(array $samples): array
    {
        $double = $this->first->up($samples);

        return $this->isTwice ? $double : $this->second->up($double);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    public function down(array $samples): array
    {
        if ($this->isTwice) {
            return $this->first->down($samples);
        }
        $double = $this->second->down($samples);
        array_unshift($double, $this->held);
        $this->held = (float) array_pop($double);

        return $this->first->down($double);
    }
}
