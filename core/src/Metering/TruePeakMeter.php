<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Gain\InterSamplePeaks;

/**
 * The highest the waveform rises, between samples too.
 *
 * Source: ITU-R BS.1770 annex 2, four times oversampling.
 */
final class TruePeakMeter
{
    private readonly InterSamplePeaks $left;

    private InterSamplePeaks $right;

    private float $peak = 0.0;

    /** Whether the last block was silence, so that nothing is on its way from before it. */
    private bool $wasSilent = false;

    public function __construct()
    {
        $this->left = new InterSamplePeaks;
        $this->right = new InterSamplePeaks;
    }

    /** Measures a block without changing it. */
    public function measure(Block $block): void
    {
        if ($block->isSilent && $this->wasSilent) {
            return;
        }
        $this->wasSilent = $block->isSilent && $block->frames() > InterSamplePeaks::DELAY * 2;
        $this->peak = $this->left->highest($block->left, $this->peak);
        if ($block->mono) {
            $this->right = clone $this->left;
        } else {
            $this->peak = $this->right->highest($block->right, $this->peak);
        }
    }

    /** In dBTP; null is silence. The last few samples are still on their way: {@see InterSamplePeaks::DELAY}. */
    public function level(): ?float
    {
        return Decibel::fromGain($this->peak);
    }
}
