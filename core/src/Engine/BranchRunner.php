<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Gain\StereoGain;
use Hafen\Metering\Meter;
use Hafen\Routing\PanLaw;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;

/** Runs one branch of a split: band filter, inserts, level, and the delay that aligns it with the slowest branch. */
final class BranchRunner
{
    public readonly Chain $chain;

    public readonly Meter $meter;

    public readonly BiquadCascade $band;

    private readonly StereoGain $level;

    private readonly DelayLine $alignment;

    public function __construct(public readonly string $id, int $sampleRate)
    {
        $this->chain = new Chain;
        $this->meter = new Meter;
        $this->band = new BiquadCascade;
        $this->level = new StereoGain(0.0, $sampleRate);
        $this->alignment = new DelayLine(0);
    }

    /** @param  list<InsertRunner>  $runners */
    public function configure(Branch $branch, bool $heard, array $runners): void
    {
        $this->chain->set($runners);
        $gain = ($heard ? Decibel::toGain($branch->gain) : 0.0) * ($branch->invert ? -1.0 : 1.0);
        // Branch pan is a stereo balance: in the centre it changes nothing.
        [$left, $right] = PanLaw::gains(Width::Stereo, $branch->pan, 0.0);
        $this->level->towards($gain * $left, $gain * $right);
    }

    public function align(int $samples): void
    {
        $this->alignment->resize($samples);
    }

    public function isSettled(): bool
    {
        return ! $this->level->moving() && ! $this->alignment->changing() && $this->chain->isSettled();
    }

    public function settle(): void
    {
        $this->level->settle();
        $this->chain->settle();
    }

    public function reset(): void
    {
        $this->band->reset();
        $this->chain->reset();
        $this->alignment->reset();
    }

    public function process(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        $this->chain->process($block, $sourcePosition, $metered, $taps);
        $this->level->process($block);
        if ($metered) {
            $this->meter->measure($block, $sourcePosition);
        }
        $taps?->pass("branch:{$this->id}", $block);
        $this->alignment->process($block);
    }
}
