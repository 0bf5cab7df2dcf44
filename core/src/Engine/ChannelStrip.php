<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Gain\GainRamp;
use Hafen\Dsp\Gain\StereoGain;
use Hafen\Metering\Meter;
use Hafen\Metering\Window;
use Hafen\Routing\PanLaw;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Width;

/**
 * Runs one channel: source, trim, inserts, fader and pan, post-fader inserts. It lives
 * on from one revision to the next, so that what sounds goes on sounding.
 */
final class ChannelStrip
{
    public readonly Chain $inserts;

    public readonly Chain $postInserts;

    private readonly Meter $source;

    private readonly Meter $preFader;

    private readonly Meter $postFader;

    private readonly GainRamp $trim;

    private readonly StereoGain $fader;

    private readonly GainAutomation $automation;

    /** Gains of the two sides where the pan is automated. */
    private readonly GainAutomation $leftAutomation;

    private readonly GainAutomation $rightAutomation;

    /** Latency at the fader in samples. */
    private int $latencyAtFader = 0;

    /** Fades out while the row is rebuilt. */
    private readonly GainRamp $gate;

    /** @var list<Feed> what comes in from other strips */
    private array $feeds = [];

    private int $waiting = 0;

    private bool $followsTap = false;

    private Width $width = Width::Stereo;

    /** @var array<string, ?Block> what passes in this block at the taps others take from, by stage */
    private array $passing = [];

    /** @var array<string, Replay> */
    private array $replays = [];

    private bool $keepsContributions = false;

    /** @var list<array{string, array{list<float>, float}, ?array{list<float>, float}}> */
    private array $contributions = [];

    /** @var array{int, int} spent up to the fader and from it on */
    private array $nanoseconds = [0, 0];

    public function __construct(
        public readonly string $id,
        public readonly ?ClipPlayer $clips,
        int $sampleRate,
    ) {
        $this->inserts = new Chain;
        $this->postInserts = new Chain;
        $this->source = new Meter;
        $this->preFader = new Meter;
        $this->postFader = new Meter;
        $this->trim = new GainRamp(1.0, $sampleRate);
        $this->fader = new StereoGain(1.0, $sampleRate);
        $this->automation = new GainAutomation($sampleRate);
        $this->leftAutomation = new GainAutomation($sampleRate);
        $this->rightAutomation = new GainAutomation($sampleRate);
        $this->gate = new GainRamp(1.0, $sampleRate, 5.0);
    }

    /** @param  int  $latencyAtFader  samples by which sound comes late to the fader */
    public function configure(Channel $channel, float $panLaw, bool $audible, int $latencyAtFader): void
    {
        $this->latencyAtFader = $latencyAtFader;
        $this->width = $channel->width;
        $this->trim->towards(Decibel::toGain($channel->trim->gain) * ($channel->trim->invert ? -1.0 : 1.0));
        // Automated gains follow their lanes; the others are set.
        $fader = $audible ? ($channel->lane('fader') === null ? Decibel::toGain($channel->fader) : 1.0) : 0.0;
        $pan = AutomationLaws::pan($channel, $panLaw);
        [$left, $right] = $pan === null ? PanLaw::gains($channel->width, $channel->pan, $panLaw) : [1.0, 1.0];
        $this->automation->follow(AutomationLaws::level($channel));
        $this->leftAutomation->follow($pan[0] ?? null);
        $this->rightAutomation->follow($pan[1] ?? null);
        $this->fader->towards($fader * $left, $fader * $right);
        $this->passing = [];
    }

    /**
     * @param  list<Feed>  $feeds  in the order they are summed
     * @param  bool  $followsTap  there is one, and it is another channel's tap: it comes as wide as it is
     */
    public function feedBy(array $feeds, bool $followsTap): void
    {
        $this->feeds = $feeds;
        $this->followsTap = $followsTap;
    }

    /** Delays clip playback by a number of samples. */
    public function wait(int $samples): void
    {
        $this->waiting = $samples;
    }

    /** Keeps a copy of each block at this stage for other strips. */
    public function keep(string $stage): void
    {
        $this->passing[$stage] = null;
    }

    /** Returns the copy of the current block at a kept stage. */
    public function passing(string $stage, int $frames): Block
    {
        return $this->passing[$stage] ?? Block::silence($frames);
    }

    /** Keeps what each feed contributes to each block. */
    public function keepContributions(): void
    {
        $this->keepsContributions = true;
    }

    /**
     * What each feed contributed to the last block: its channel, and for both sides the samples and the gain they had
     * here; null for the right side is the same as the left.
     *
     * @return list<array{string, array{list<float>, float}, ?array{list<float>, float}}>
     */
    public function contributions(): array
    {
        return $this->contributions;
    }

    /** Jumps to all target values. */
    public function settle(): void
    {
        $this->trim->settle();
        $this->fader->settle();
        $this->gate->settle();
        $this->automation->settle();
        $this->leftAutomation->settle();
        $this->rightAutomation->settle();
        $this->inserts->settle();
        $this->postInserts->settle();
        foreach ($this->feeds as $feed) {
            $feed->settle();
        }
    }

    public function reset(): void
    {
        $this->inserts->reset();
        $this->postInserts->reset();
        foreach ($this->feeds as $feed) {
            $feed->reset();
        }
    }

    /**
     * Limits all meters to a range of the session.
     *
     * @param  Window  $window  as seen where sound enters this channel
     */
    public function measureOnly(Window $window): void
    {
        $stages = $this->stages();
        foreach ($this->meters() as $stage => $meter) {
            $meter->limitTo($window->delayedBy($window->latency + $stages[$stage]));
        }
    }

    /**
     * Replays the channel up to its fader from captured audio instead of computing it.
     *
     * @param  array<string, Replay>  $replays  by stage: before the fader, at the source where others take it there
     */
    public function replay(array $replays): void
    {
        $this->replays = $replays;
    }

    public function closeGate(): void
    {
        $this->gate->towards(0.0);
    }

    public function openGate(): void
    {
        $this->gate->towards(1.0);
    }

    /** Returns whether the fade of the gate is running. */
    public function gateMoving(): bool
    {
        return $this->gate->moving();
    }

    public function latency(): int
    {
        return $this->inserts->latency() + $this->postInserts->latency();
    }

    /**
     * Latency from the source to each tap of this channel.
     *
     * @return array<string, int> samples by stage, in the order sound passes
     */
    public function stages(): array
    {
        $before = $this->inserts->latency();
        $stages = [Tap::SOURCE => 0] + $this->inserts->stages() + [Tap::PRE_FADER => $before];
        foreach ($this->postInserts->stages() as $stage => $within) {
            $stages[$stage] = $before + $within;
        }
        $stages[Tap::POST_FADER] = $this->latency();

        return $stages;
    }

    /** @return array<string, Meter> by stage, as {@see stages()} */
    public function meters(): array
    {
        return [Tap::SOURCE => $this->source]
            + $this->inserts->meters()
            + [Tap::PRE_FADER => $this->preFader]
            + $this->postInserts->meters()
            + [Tap::POST_FADER => $this->postFader];
    }

    /** @return array<string, InsertRunner> both rows with all that is in their splits, by the stage after each */
    public function runners(): array
    {
        return $this->inserts->runners() + $this->postInserts->runners();
    }

    /**
     * Returns the channel's tail in samples, including the tails of channels that feed it.
     *
     * @param  array<string, int>  $others  the same of the strips that may feed it, by id
     */
    public function tail(array $others): int
    {
        $fed = 0;
        foreach ($this->feeds as $feed) {
            $fed = max($fed, $others[$feed->from()] ?? 0);
        }

        return $fed + $this->inserts->tail() + $this->postInserts->tail();
    }

    /**
     * Processes the next block.
     *
     * @param  int  $sourcePosition  in the session of the first sample, as the sources count
     * @param  ?StageTaps  $taps  filled with what somebody listens to
     * @return bool false when the output was not a number and the channel has been silenced
     */
    public function process(int $sourcePosition, int $frames, bool $metered, ?StageTaps $taps): bool
    {
        $start = hrtime(true);
        $block = $this->replays === []
            ? $this->upToFader($sourcePosition, $frames, $metered, $taps)
            : $this->replayed($sourcePosition, $frames, $taps);
        $this->pass(Tap::PRE_FADER, $block, $taps);
        $atFader = hrtime(true);
        $this->nanoseconds[0] += $atFader - $start;
        $this->fader->process($block);
        $this->automate($block, $sourcePosition - $this->latencyAtFader);
        $this->postInserts->process($block, $sourcePosition, $metered, $taps);
        $sound = $this->postFader->measure($block, $sourcePosition);
        if (! $sound) {
            $this->silence($block);
        }
        $this->gate($block);
        $this->pass(Tap::POST_FADER, $block, $taps);
        $this->nanoseconds[1] += hrtime(true) - $atFader;

        return $sound;
    }

    /** Returns and resets the time spent, in nanoseconds. */
    public function takeNanoseconds(): int
    {
        return array_sum($this->takeSections());
    }

    /** @return array{int, int} time spent since last asked up to the fader and from it on, in nanoseconds */
    public function takeSections(): array
    {
        $nanoseconds = $this->nanoseconds;
        $this->nanoseconds = [0, 0];

        return $nanoseconds;
    }

    private function upToFader(int $sourcePosition, int $frames, bool $metered, ?StageTaps $taps): Block
    {
        $block = $this->gather($sourcePosition, $frames);
        $this->trim->process($block);
        if ($metered) {
            $this->source->measure($block, $sourcePosition);
        }
        $this->pass(Tap::SOURCE, $block, $taps);
        $this->inserts->process($block, $sourcePosition, $metered, $taps);
        if ($metered) {
            $this->preFader->measureLike($this->inserts->lastMeter() ?? $this->source);
        }

        return $block;
    }

    private function replayed(int $sourcePosition, int $frames, ?StageTaps $taps): Block
    {
        if (isset($this->replays[Tap::SOURCE])) {
            $this->pass(Tap::SOURCE, $this->replays[Tap::SOURCE]->read($sourcePosition, $frames), $taps);
        }

        return $this->replays[Tap::PRE_FADER]->read($sourcePosition, $frames);
    }

    private function automate(Block $block, int $position): void
    {
        $this->automation->process($block, $position);
        if ($this->leftAutomation->isIdle() && $this->rightAutomation->isIdle()) {
            return;
        }
        $block->widen();
        $block->left = Samples::multiply($block->left, $this->leftAutomation->gains($position, $block->frames()));
        $block->right = Samples::multiply($block->right, $this->rightAutomation->gains($position, $block->frames()));
    }

    private function gather(int $sourcePosition, int $frames): Block
    {
        if ($this->clips !== null) {
            // Clips wait for sidechain signals that arrive later.
            return $this->clips->read($sourcePosition - $this->waiting, $frames);
        }
        if ($this->followsTap && count($this->feeds) === 1) {
            $block = $this->feeds[0]->take($sourcePosition, $frames);
        } else {
            $block = $this->sum($sourcePosition, $frames);
        }
        if ($this->width === Width::Mono && ! $block->mono) {
            $block = Block::mono(Samples::mid($block->left, $block->right));
        }

        return $block;
    }

    /** Sums all feeds; feeds that are equal on both sides are summed once. */
    private function sum(int $sourcePosition, int $frames): Block
    {
        $both = $left = $right = $this->contributions = [];
        foreach ($this->feeds as $feed) {
            [$one, $other] = $feed->parts($sourcePosition, $frames);
            if ($this->keepsContributions) {
                $this->contributions[] = [$feed->from(), $one, $other];
            }
            if ($other === null) {
                $both[] = $one;
            } else {
                $left[] = $one;
                $right[] = $other;
            }
        }
        $common = Samples::addAllScaled(array_fill(0, $frames, 0.0), $both);

        return new Block(Samples::addAllScaled($common, $left), Samples::addAllScaled($common, $right));
    }

    private function pass(string $stage, Block $block, ?StageTaps $taps): void
    {
        $taps?->pass($stage, $block);
        if (array_key_exists($stage, $this->passing)) {
            $this->passing[$stage] = clone $block;
        }
    }

    private function gate(Block $block): void
    {
        if (! $this->gate->moving() && $this->gate->gain() === 1.0) {
            return;
        }
        $gains = Block::mono($this->gate->next($block->frames()))->left;
        foreach ([$block, ...array_filter($this->passing)] as $passing) {
            $passing->left = Samples::multiply($passing->left, $gains);
            if (! $passing->mono) {
                $passing->right = Samples::multiply($passing->right, $gains);
            }
        }
    }

    /** NaN and infinity must not reach other channels. */
    private function silence(Block $block): void
    {
        $block->left = array_fill(0, $block->frames(), 0.0);
        $block->right = [];
        $block->mono = true;
        foreach (array_keys($this->passing) as $stage) {
            $this->passing[$stage] = clone $block;
        }
        $this->reset();
    }
}
