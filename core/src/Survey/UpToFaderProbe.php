<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Audio\Samples;
use Hafen\Engine\ChannelStrip;
use Hafen\Engine\Tap;
use Hafen\Metering\LowSpectrumMeter;
use Hafen\Metering\SoundSketch;
use Hafen\Metering\Window;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;

/** Measures a channel up to its fader, block by block. */
final class UpToFaderProbe
{
    private readonly LowSpectrumMeter $low;

    private readonly SoundSketch $sketch;

    private readonly ?MomentFinder $moments;

    /** @var array{float, float} sums of the samples of both sides */
    private array $sums = [0.0, 0.0];

    public function __construct(
        private readonly ChannelStrip $strip,
        Channel $channel,
        Session $session,
        private readonly Window $atSource,
        private readonly Window $beforeFader,
    ) {
        $strip->keep(Tap::SOURCE);
        $strip->keep(Tap::PRE_FADER);
        $this->low = new LowSpectrumMeter($session->sampleRate);
        $this->sketch = new SoundSketch($this->low->picked($beforeFader->frames()));
        $this->moments = $channel->kind === ChannelKind::Main ? new MomentFinder($strip, $channel) : null;
    }

    /** Measures the block the strip processed last. */
    public function look(int $sourcePosition): void
    {
        $source = $this->atSource->cut($this->strip->passing(Tap::SOURCE, 0), $sourcePosition);
        if ($source !== null && ! $source[0]->isSilent) {
            $this->sums[0] += array_sum($source[0]->left);
            $this->sums[1] += array_sum($source[0]->right());
        }
        $before = $this->beforeFader->cut($this->strip->passing(Tap::PRE_FADER, 0), $sourcePosition);
        if ($before !== null) {
            $picked = $this->low->measure($before[0]);
            $this->sketch->add($picked->mono ? $picked->left : Samples::mid($picked->left, $picked->right));
        }
        $this->moments?->look($this->atSource->position($sourcePosition), $this->atSource->from, $this->atSource->to);
    }

    /** @param  list<ClippedClip>  $clipped */
    public function figures(array $clipped): SourceFigures
    {
        [$left, $right] = $this->sums;

        return new SourceFigures((abs($left) > abs($right) ? $left : $right) / $this->atSource->frames(), $this->low->read(), $clipped, $this->moments?->loudest() ?? [], $this->sketch->read());
    }
}
