<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Gain\StereoGain;
use Hafen\Routing\PanLaw;
use Hafen\Session\Channel\Channel;

/** The fader and the pan of a channel strip: they move to what is set, or follow their automation. */
final class StripFader
{
    private readonly StereoGain $gain;

    private readonly GainAutomation $automation;

    /** Gains of the two sides where the pan is automated. */
    private readonly GainAutomation $leftAutomation;

    private readonly GainAutomation $rightAutomation;

    public function __construct(int $sampleRate)
    {
        $this->gain = new StereoGain(1.0, $sampleRate);
        $this->automation = new GainAutomation($sampleRate);
        $this->leftAutomation = new GainAutomation($sampleRate);
        $this->rightAutomation = new GainAutomation($sampleRate);
    }

    public function configure(Channel $channel, float $panLaw, bool $audible): void
    {
        // Automated gains follow their lanes; the others are set.
        $fader = $audible ? ($channel->lane('fader') === null ? Decibel::toGain($channel->fader) : 1.0) : 0.0;
        $pan = AutomationLaws::pan($channel, $panLaw);
        [$left, $right] = $pan === null ? PanLaw::gains($channel->width, $channel->pan, $panLaw) : [1.0, 1.0];
        $this->automation->follow(AutomationLaws::level($channel));
        $this->leftAutomation->follow($pan[0] ?? null);
        $this->rightAutomation->follow($pan[1] ?? null);
        $this->gain->towards($fader * $left, $fader * $right);
    }

    public function settle(): void
    {
        $this->gain->settle();
        $this->automation->settle();
        $this->leftAutomation->settle();
        $this->rightAutomation->settle();
    }

    /** Whether it is on the way to what is set, or follows a lane. */
    public function moving(): bool
    {
        return $this->gain->moving() || ! $this->automation->isIdle() || ! $this->leftAutomation->isIdle() || ! $this->rightAutomation->isIdle();
    }

    /** @param  int  $position  in the session of the first sample that comes to the fader */
    public function process(Block $block, int $position): void
    {
        $this->gain->process($block);
        $this->automation->process($block, $position);
        if ($this->leftAutomation->isIdle() && $this->rightAutomation->isIdle()) {
            return;
        }
        $block->widen();
        $block->left = Samples::multiply($block->left, $this->leftAutomation->gains($position, $block->frames()));
        $block->right = Samples::multiply($block->right, $this->rightAutomation->gains($position, $block->frames()));
    }
}
