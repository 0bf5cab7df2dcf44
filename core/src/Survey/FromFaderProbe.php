<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\ChannelStrip;
use Hafen\Engine\Tap;
use Hafen\Metering\CorrelationMeter;
use Hafen\Metering\LoudnessMeter;
use Hafen\Metering\LowSpectrumMeter;
use Hafen\Metering\OverRegions;
use Hafen\Metering\OverviewMeter;
use Hafen\Metering\TruePeakMeter;
use Hafen\Metering\Window;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;

/** Looks at what comes out of a channel, block by block. */
final class FromFaderProbe
{
    private const OVERVIEW_POINTS = 800;

    private readonly LoudnessMeter $loudness;

    private readonly TruePeakMeter $truePeak;

    private readonly CorrelationMeter $correlation;

    private readonly ?LowSpectrumMeter $low;

    private readonly OverviewMeter $overview;

    private readonly OverRegions $overs;

    private readonly bool $isMain;

    public function __construct(private readonly ChannelStrip $strip, Channel $channel, Session $session, private readonly Window $window)
    {
        $strip->keep(Tap::POST_FADER);
        $this->loudness = new LoudnessMeter($session->sampleRate);
        $this->truePeak = new TruePeakMeter;
        $this->correlation = new CorrelationMeter;
        // What only has a gain put to it need not be looked at again.
        $this->low = $channel->postInserts === [] && $channel->lane('fader') === null && $channel->lane('pan') === null && $channel->lane('mute') === null ? null : new LowSpectrumMeter($session->sampleRate);
        $this->isMain = $channel->kind === ChannelKind::Main;
        $this->overview = new OverviewMeter($window->from, $window->to, self::OVERVIEW_POINTS);
        $this->overs = new OverRegions($session->sampleRate);
    }

    /** Measures the block the strip processed last. */
    public function look(int $sourcePosition): void
    {
        $cut = $this->window->cut($this->strip->passing(Tap::POST_FADER, 0), $sourcePosition);
        if ($cut === null) {
            return;
        }
        [$block, $position] = $cut;
        $this->loudness->measure($block);
        $this->truePeak->measure($block);
        $this->correlation->measure($block);
        $this->low?->measure($block);
        if ($this->isMain) {
            $this->overview->measure($block, $position);
            $this->overs->measure($block, $position);
        }
    }

    public function figures(): OutputFigures
    {
        return new OutputFigures($this->loudness->read(), $this->truePeak->level(), $this->correlation->read(), $this->low?->read());
    }

    public function main(): MainFigures
    {
        return new MainFigures($this->overview->read(), $this->overs->regions(), $this->overs->samples());
    }
}
