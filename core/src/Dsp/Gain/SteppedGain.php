<?php

declare(strict_types=1);

namespace Hafen\Dsp\Gain;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;

/** A gain in dB of a processor that is set again and again: the first one is there at once, later ones are moved to between steps. */
final class SteppedGain
{
    private ?GainRamp $ramp = null;

    public function __construct(private readonly int $sampleRate)
    {
    }

    public function set(float $decibels): void
    {
        $gain = Decibel::toGain($decibels);
        $this->ramp ??= GainRamp::betweenSteps($gain, $this->sampleRate);
        $this->ramp->towards($gain);
    }

    public function process(Block $block): void
    {
        $this->ramp?->process($block);
    }

    /** Goes to the target at once. */
    public function settle(): void
    {
        $this->ramp?->settle();
    }
}
