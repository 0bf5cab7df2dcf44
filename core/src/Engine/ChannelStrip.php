<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Gain\GainRamp;
use Hafen\Metering\Meter;
use Hafen\Metering\Window;
use Hafen\Note\HeldKeys;
use Hafen\Session\Channel\Channel;

/**
 * Runs one channel: source, trim, inserts, fader and pan, post-fader inserts. It lives
 * on from one revision to the next, so that what sounds goes on sounding.
 */
final class ChannelStrip implements Strip
{
    public readonly Chain $inserts;

    public readonly Chain $postInserts;

    private readonly Meter $source;

    private readonly Meter $preFader;

    private readonly Meter $postFader;

    private readonly GainRamp $trim;

    private readonly StripFader $fader;

    /** Latency at the fader in samples. */
    private int $latencyAtFader = 0;

    /** Fades out while the row is rebuilt. */
    private readonly GainRamp $gate;

    /** Samples until it opens, where nothing has come through it yet. */
    private int $opensIn = 0;

    /** @var array<string, ?Block> what passes in this block at the taps others take from, by stage */
    private array $passing = [];

    /** @var array<string, ?Block> the same in the whole stretch, where it was worked in one go */
    private array $stretch = [];

    /** @var array<string, Replay> */
    private array $replays = [];

    private ?FrozenAudio $frozen = null;

    /** Latency of the inserts before the fader in samples, which are not there while it is frozen. */
    private int $frozenLatency = 0;

    /** Spent on reading clips, the frozen file and what others feed. */
    private int $nanosecondsReading = 0;

    /** @var ?array{Channel, float, bool, int} what it was configured with last */
    private ?array $configured = null;

    /** @var ?array{Channel, int} whose inserts its rows run, and how late sound enters them */
    private ?array $rows = null;

    /** @var array{int, int} spent up to the fader and from it on */
    private array $nanoseconds = [0, 0];

    public function __construct(
        public readonly string $id,
        public readonly StripInput $input,
        int $sampleRate,
    ) {
        $this->inserts = new Chain;
        $this->postInserts = new Chain;
        $this->source = new Meter;
        $this->preFader = new Meter;
        $this->postFader = new Meter;
        $this->trim = new GainRamp(1.0, $sampleRate);
        $this->fader = new StripFader($sampleRate);
        $this->gate = new GainRamp(1.0, $sampleRate, 5.0);
    }

    /** @param  int  $latencyAtFader  samples by which sound comes late to the fader */
    public function configure(Channel $channel, float $panLaw, bool $audible, int $latencyAtFader): void
    {
        $this->passing = [];
        // From one revision to the next a channel nothing was done to is the same value.
        if ($this->configured === [$channel, $panLaw, $audible, $latencyAtFader]) {
            return;
        }
        $this->configured = [$channel, $panLaw, $audible, $latencyAtFader];
        $this->latencyAtFader = $latencyAtFader;
        $this->input->widthOf($channel->width);
        $this->trim->towards(Decibel::toGain($channel->trim->gain) * ($channel->trim->invert ? -1.0 : 1.0));
        $this->fader->configure($channel, $panLaw, $audible);
    }

    /**
     * Sets what runs before and after the fader.
     *
     * @param  list<InsertRunner>  $inserts
     * @param  list<InsertRunner>  $postInserts
     * @param  ?Channel  $channel  whose inserts all of them are, where they listen to no other
     * @param  int  $arrival  samples by which sound comes late to the first
     */
    public function setRows(array $inserts, array $postInserts, ?Channel $channel, int $arrival): void
    {
        $this->inserts->set($inserts);
        $this->postInserts->set($postInserts);
        $this->rows = $channel === null ? null : [$channel, $arrival];
    }

    /** Whether its rows run the inserts of this very channel, set as they are. */
    public function hasRowsOf(Channel $channel, int $arrival): bool
    {
        return $this->rows === [$channel, $arrival];
    }

    public function id(): string
    {
        return $this->id;
    }

    public function keep(string $stage): void
    {
        $this->passing[$stage] = null;
    }

    public function passing(string $stage, int $frames): Block
    {
        return $this->passing[$stage] ?? Block::silence($frames);
    }

    /** Jumps to all target values. */
    public function settle(): void
    {
        $this->trim->settle();
        $this->fader->settle();
        $this->gate->settle();
        $this->inserts->settle();
        $this->postInserts->settle();
        $this->input->settle();
    }

    public function reset(): void
    {
        $this->inserts->reset();
        $this->postInserts->reset();
        $this->input->reset();
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

    /**
     * Plays a file in place of everything up to the fader; null plays the channel itself.
     *
     * @param  int  $rowLatency  of the inserts that are frozen, in samples
     */
    public function freeze(?FrozenAudio $audio, int $rowLatency = 0): void
    {
        $this->frozen = $audio;
        $this->frozenLatency = $rowLatency;
    }

    public function frozen(): ?FrozenAudio
    {
        return $this->frozen;
    }

    /** Whether it needs what its clips and feeds bring: frozen, only where others take it at the source. */
    public function readsSource(): bool
    {
        return $this->frozen === null || (! $this->frozen->isSilence() && array_key_exists(Tap::SOURCE, $this->passing));
    }

    public function goesThroughHardware(): bool
    {
        return array_filter($this->runners(), static fn (InsertRunner $runner): bool => $runner instanceof HardwareRunner) !== [];
    }

    public function isFrozen(): bool
    {
        return $this->frozen !== null;
    }

    /** Fades to silence before its row is rebuilt. */
    public function close(): void
    {
        $this->opensIn = 0;
        $this->gate->towards(0.0);
    }

    /** Begins silent, to fade in when it opens: its channel sounded from another process or of another source before. */
    public function startClosed(): void
    {
        $this->close();
        $this->gate->settle();
        // What comes in now is at the end only so much later.
        $this->opensIn = $this->latency();
    }

    public function open(): void
    {
        if ($this->opensIn <= 0) {
            $this->gate->towards(1.0);
        }
    }

    /** Plays keys that somebody holds: of its own, and of channels whose notes its inserts follow. */
    public function hold(?HeldKeys $held): void
    {
        $this->input->notes?->hold($held?->on($this->id));
        foreach ($this->runners() as $runner) {
            $runner instanceof ProcessorRunner && $runner->hold($held);
        }
    }

    /** Whether it is on the way to silence or from it. */
    public function moving(): bool
    {
        return $this->gate->moving();
    }

    public function latency(): int
    {
        return $this->latencyBeforeFader() + $this->postInserts->latency();
    }

    private function latencyBeforeFader(): int
    {
        return $this->frozen === null ? $this->inserts->latency() : $this->frozenLatency;
    }

    public function stages(): array
    {
        $before = $this->latencyBeforeFader();
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

    /** The meter after the fader and the post-fader inserts, which is always read. */
    public function endMeter(): Meter
    {
        return $this->postFader;
    }

    /** @return array<string, InsertRunner> both rows with all that is in their splits, by the stage after each */
    public function runners(): array
    {
        return $this->inserts->runners() + $this->postInserts->runners();
    }

    public function tail(array $others): int
    {
        return ($this->frozen === null ? $this->input->tail($others) + $this->inserts->tail() : 0) + $this->postInserts->tail();
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
        if (! $block->isSilent || $this->fader->moving()) {
            $this->fader->process($block, $sourcePosition - $this->latencyAtFader);
        }
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

    /** Passes on a piece of the stretch that was processed last, to strips that are worked piece by piece. */
    public function passPiece(Piece $piece): void
    {
        if ($piece->isFirst()) {
            $this->stretch = $this->passing;
        }
        foreach ($this->stretch as $stage => $block) {
            $this->passing[$stage] = $block?->part($piece->offset, $piece->frames);
        }
    }

    /** Returns and resets the time spent, in nanoseconds. */
    public function takeNanoseconds(): int
    {
        return array_sum($this->takeSections());
    }

    /** Time spent since last asked from the fader on, in nanoseconds; {@see takeSections()} resets it. */
    public function nanosecondsAfterFader(): int
    {
        return $this->nanoseconds[1];
    }

    /** @return array{int, int} time spent since last asked up to the fader and from it on, in nanoseconds */
    public function takeSections(): array
    {
        $nanoseconds = $this->nanoseconds;
        $this->nanoseconds = [0, 0];

        return $nanoseconds;
    }

    /** Returns and resets the time spent on reading clips, the frozen file and what others feed, in nanoseconds. */
    public function takeReadingNanoseconds(): int
    {
        $nanoseconds = $this->nanosecondsReading;
        $this->nanosecondsReading = 0;

        return $nanoseconds;
    }

    private function upToFader(int $sourcePosition, int $frames, bool $metered, ?StageTaps $taps): Block
    {
        if ($this->frozen !== null) {
            return $this->playFrozen($this->frozen, $sourcePosition, $frames, $metered, $taps);
        }
        $block = $this->readSource($sourcePosition, $frames, $metered, $taps);
        $this->inserts->process($block, $sourcePosition, $metered, $taps);
        if ($metered) {
            $this->preFader->measureLike($this->inserts->lastMeter() ?? $this->source);
        }

        return $block;
    }

    private function readSource(int $sourcePosition, int $frames, bool $metered, ?StageTaps $taps): Block
    {
        $start = hrtime(true);
        $block = $this->input->read($sourcePosition, $frames);
        $this->nanosecondsReading += hrtime(true) - $start;
        if (! $block->isSilent || $this->trim->moving()) {
            $this->trim->process($block);
        }
        if ($metered) {
            $this->source->measure($block, $sourcePosition);
        }
        $this->pass(Tap::SOURCE, $block, $taps);

        return $block;
    }

    private function playFrozen(FrozenAudio $frozen, int $sourcePosition, int $frames, bool $metered, ?StageTaps $taps): Block
    {
        if ($frozen->isSilence()) {
            $this->pass(Tap::SOURCE, $frozen->read($sourcePosition, $frames), $taps);
        } elseif ($this->readsSource() || $taps?->wants(Tap::SOURCE) === true) {
            $this->readSource($sourcePosition, $frames, $metered, $taps);
        }
        $start = hrtime(true);
        $block = $frozen->read($sourcePosition, $frames);
        $this->nanosecondsReading += hrtime(true) - $start;
        if ($metered) {
            $this->preFader->measure($block, $sourcePosition);
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
        if ($this->opensIn > 0) {
            $this->opensIn -= $block->frames();
            $this->open();
        }
        // What passes at the end is taken from the block afterwards; until then the one before stands there.
        foreach ([$block, ...array_filter(array_diff_key($this->passing, [Tap::POST_FADER => null]))] as $passing) {
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
