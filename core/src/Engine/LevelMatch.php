<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Gain\GainRamp;

/**
 * Brings side 2 of a compare to the level of side 1, so that louder does not pass for better: the ratio of their mean
 * squares, over all that was heard at first and over the last few seconds later. At most 24 dB either way.
 */
final class LevelMatch
{
    private const SECONDS = 4.0;

    private const MOST = 15.85;

    private float $one = 0.0;

    private float $two = 0.0;

    private readonly GainRamp $gain;

    public function __construct(private readonly int $sampleRate)
    {
        $this->gain = new GainRamp(1.0, $sampleRate, 100.0);
    }

    /** Current gain of side 2. */
    public function gain(): float
    {
        return $this->gain->target();
    }

    public function apply(Block $one, Block $two): void
    {
        $keep = exp(-$one->frames() / (self::SECONDS * $this->sampleRate));
        $first = $this->two === 0.0;
        $this->one = $this->one * $keep + Samples::energy($one->left) + Samples::energy($one->right);
        $this->two = $this->two * $keep + Samples::energy($two->left) + Samples::energy($two->right);
        if ($this->two > 1e-9 && $this->one > 1e-9) {
            $this->gain->towards(max(1 / self::MOST, min(self::MOST, sqrt($this->one / $this->two))));
            if ($first) {
                $this->gain->settle();
            }
        }
        $this->gain->process($two);
    }
}
