<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\Block;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\WavWriter;
use Hafen\Engine\ChannelStrip;
use Hafen\Engine\Fault;
use Hafen\Engine\Plan;
use Hafen\Engine\Tap;

/**
 * Runs a plan over a range and writes what passes some taps, each to a file of its own or all added up to one, from the range's first
 * sample to its last and on through the tail. Latency is taken off: sample n of the session is the same sample in all files.
 */
final class TapRecorder
{
    public const BLOCK = 512;

    /** dB below the peak at which a tail is no longer heard. */
    private const SILENCE = -90.0;

    /** Seconds after which a tail that is still heard is cut. */
    private const LONGEST_TAIL = 120;

    /** @var array<string, Tap> by id */
    private array $taps = [];

    /** @var array<string, int> samples by which sound comes late to a tap, by its id */
    private array $latencies = [];

    /** @var array<array-key, ChannelStrip> */
    private array $strips;

    /** @var array<string, Fault> the first of each channel, by its id */
    private array $faults = [];

    /**
     * @param  non-empty-list<Tap>  $taps  "source", "pre-fader" or "post-fader" of a channel
     * @param  non-empty-array<string, RecordedTap>  $files  by tap id; where the taps are added up only one
     * @param  ?float  $tail  seconds after the range; null is as long as it is heard
     */
    private function __construct(
        private readonly Plan $plan,
        array $taps,
        private readonly array $files,
        private readonly ?TapSum $sum,
        private readonly int $from,
        private readonly int $to,
        private readonly ?float $tail,
    ) {
        $wanted = $sources = [];
        foreach ($taps as $tap) {
            $plan->strips[$tap->channel]->keep($tap->stage);
            $this->taps[$tap->id()] = $tap;
            $this->latencies[$tap->id()] = $plan->latencyAt($tap);
            $wanted[$tap->channel] = true;
            if ($tap->stage === Tap::SOURCE) {
                $sources[$tap->channel] = true;
            }
        }
        $this->strips = array_diff_key($plan->strips, $plan->asleep($wanted, $sources));
    }

    /**
     * @param  non-empty-array<array-key, WavWriter>  $writers  by tap id: "channel:source", "channel:pre-fader", "channel:post-fader"
     * @param  ?float  $tail  seconds after the range; null is as long as it is heard
     */
    public static function apart(Plan $plan, array $writers, int $from, int $to, ?float $tail): self
    {
        $taps = $files = [];
        foreach ($writers as $id => $writer) {
            $taps[] = Tap::fromString((string) $id) ?? throw new \LogicException("{$id} is no tap.");
            $files[(string) $id] = new RecordedTap($writer);
        }

        return new self($plan, $taps, $files, null, $from, $to, $tail);
    }

    /**
     * @param  non-empty-list<Tap>  $taps
     * @param  string  $id  what their sum is known by
     * @param  ?float  $tail  seconds after the range; null is as long as it is heard
     */
    public static function together(Plan $plan, array $taps, string $id, WavWriter $writer, int $from, int $to, ?float $tail): self
    {
        $sum = new TapSum(array_map(static fn (Tap $tap): string => $tap->id(), $taps), $writer->format->channels === 1);

        return new self($plan, $taps, [$id => new RecordedTap($writer)], $sum, $from, $to, $tail);
    }

    /**
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     * @return non-empty-array<string, RecordedTap> by id
     *
     * @throws RenderStopped when $progress said so
     */
    public function record(?callable $progress): array
    {
        $rate = $this->plan->session->sampleRate;
        $tail = $this->tail === null ? $this->longestTail($rate) : (int) round($this->tail * $rate);
        $latest = max([0, ...$this->latencies]);
        $total = $this->to - $this->from + $tail;
        $start = max(0, $this->from - $this->plan->preRoll());
        $block = $this->plan->blockFrames(self::BLOCK);
        for ($source = $start; $source < $this->to + $tail + $latest; $source += $block) {
            SampleLoops::pause();
            $this->plan->begin($block);
            foreach ($this->strips as $id => $strip) {
                if (! $strip->process($source, $block, false, null)) {
                    $this->faults[(string) $id] ??= new Fault((string) $id, $source);
                }
            }
            $this->plan->end($block);
            foreach ($this->taps as $tap) {
                $this->take($tap, $source, $block, $this->to + $tail);
            }
            if ($progress !== null && ! $progress(max(0, min($total, $source + $block - $latest - $this->from)), $total)) {
                throw RenderStopped::at(max(0, $source - $this->from), $total);
            }
        }
        $this->alignEnds();

        return $this->files;
    }

    /** @return array<string, Fault> by channel id */
    public function faults(): array
    {
        return $this->faults;
    }

    private function take(Tap $tap, int $source, int $frames, int $end): void
    {
        $block = $this->strips[$tap->channel]->passing($tap->stage, $frames);
        $at = $source - $this->latencies[$tap->id()];
        $wanted = self::cut($block, $this->from - $at, $end - $at);
        if ($wanted === null) {
            return;
        }
        $file = $this->sum === null ? $this->files[$tap->id()] : array_values($this->files)[0];
        $wanted = $this->sum === null ? $wanted : $this->sum->add($tap->id(), $wanted);
        $within = $wanted === null ? null : self::cut($wanted, 0, $this->to - $this->from - $file->taken());
        if ($within !== null) {
            $file->take($within, 0.0);
        }
        $after = $wanted === null ? null : self::cut($wanted, $within?->frames() ?? 0, $wanted->frames());
        if ($after !== null) {
            // What comes after the range is written once something that can be heard follows.
            $file->take($after, $this->tail === null ? 10.0 ** (self::SILENCE / 20.0) : 0.0);
        }
    }

    /** The frames from one to before another, as far as the block has them. */
    private static function cut(Block $block, int $from, int $to): ?Block
    {
        [$from, $to] = [max(0, $from), min($block->frames(), $to)];

        return match (true) {
            $from >= $to => null,
            $from === 0 && $to === $block->frames() => $block,
            default => new Block(array_slice($block->left, $from, $to - $from), $block->mono ? [] : array_slice($block->right, $from, $to - $from), $block->mono),
        };
    }

    /** All files end where the last of them does. */
    private function alignEnds(): void
    {
        $longest = max(array_map(static fn (RecordedTap $file): int => $file->frames(), $this->files));
        foreach ($this->files as $file) {
            $file->fill($longest);
        }
    }

    /**
     * Samples after the range in which it is looked whether something can be heard: twice the tails its inserts and what feeds it name,
     * as those may end at −60 dB, and a moment in which what makes sound by itself shows.
     */
    private function longestTail(int $rate): int
    {
        $tails = $this->plan->tails();
        $longest = max(array_map(static fn (Tap $tap): int => $tails[$tap->channel], $this->taps));

        return min(2 * $longest + intdiv($rate, 10), self::LONGEST_TAIL * $rate);
    }
}
