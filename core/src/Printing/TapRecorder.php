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
 * Runs a plan over a range and writes what passes some taps to files, each from the range's first sample to its last and on
 * through its tail. Latency is taken off: sample n of the session is the same sample in all files.
 */
final class TapRecorder
{
    public const BLOCK = 512;

    /** dB below the peak at which a tail is no longer heard. */
    private const SILENCE = -90.0;

    /** Seconds after which a tail that is still heard is cut. */
    private const LONGEST_TAIL = 120;

    /** @var array<string, RecordedTap> by tap id */
    private array $taps = [];

    /** @var array<array-key, ChannelStrip> */
    private array $strips;

    /** @var array<string, Fault> the first of each channel, by its id */
    private array $faults = [];

    /**
     * @param  non-empty-array<array-key, WavWriter>  $writers  by tap id: "channel:source", "channel:pre-fader", "channel:post-fader"
     * @param  ?float  $tail  seconds after the range; null is as long as it is heard
     */
    public function __construct(
        private readonly Plan $plan,
        array $writers,
        private readonly int $from,
        private readonly int $to,
        private readonly ?float $tail,
    ) {
        $wanted = $sources = [];
        foreach ($writers as $id => $writer) {
            $tap = Tap::fromString((string) $id) ?? throw new \LogicException("{$id} is no tap.");
            $plan->strips[$tap->channel]->keep($tap->stage);
            $this->taps[$id] = new RecordedTap($tap, $writer, $plan->latencyAt($tap));
            $wanted[$tap->channel] = true;
            if ($tap->stage === Tap::SOURCE) {
                $sources[$tap->channel] = true;
            }
        }
        $this->strips = array_diff_key($plan->strips, $plan->asleep($wanted, $sources));
    }

    /**
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     * @return array<string, RecordedTap> by tap id
     *
     * @throws RenderStopped when $progress said so
     */
    public function record(?callable $progress): array
    {
        $rate = $this->plan->session->sampleRate;
        $tail = $this->tail === null ? $this->longestTail($rate) : (int) round($this->tail * $rate);
        $latest = max(array_map(static fn (RecordedTap $tap): int => $tap->latency, $this->taps));
        $total = $this->to - $this->from + $tail;
        $start = max(0, $this->from - $this->plan->preRoll());
        for ($source = $start; $source < $this->to + $tail + $latest; $source += self::BLOCK) {
            SampleLoops::pause();
            foreach ($this->strips as $id => $strip) {
                if (! $strip->process($source, self::BLOCK, false, null)) {
                    $this->faults[(string) $id] ??= new Fault((string) $id, $source);
                }
            }
            foreach ($this->taps as $tap) {
                $this->take($tap, $source, $this->to + $tail);
            }
            if ($progress !== null && ! $progress(max(0, min($total, $source + self::BLOCK - $latest - $this->from)), $total)) {
                throw RenderStopped::at(max(0, $source - $this->from), $total);
            }
        }
        $this->alignEnds();

        return $this->taps;
    }

    /** @return array<string, Fault> by channel id */
    public function faults(): array
    {
        return $this->faults;
    }

    private function take(RecordedTap $tap, int $source, int $end): void
    {
        $block = $this->strips[$tap->tap->channel]->passing($tap->tap->stage, self::BLOCK);
        $place = static fn (int $position): int => max(0, min(self::BLOCK, $position + $tap->latency - $source));
        $within = self::cut($block, $place($this->from), $place($this->to));
        if ($within !== null) {
            $tap->take($within, 0.0);
        }
        $after = self::cut($block, max($place($this->from), $place($this->to)), $place($end));
        if ($after !== null) {
            // What comes after the range is written once something that can be heard follows.
            $tap->take($after, $this->tail === null ? 10.0 ** (self::SILENCE / 20.0) : 0.0);
        }
    }

    private static function cut(Block $block, int $from, int $to): ?Block
    {
        return match (true) {
            $from >= $to => null,
            $from === 0 && $to === $block->frames() => $block,
            default => new Block(array_slice($block->left, $from, $to - $from), $block->mono ? [] : array_slice($block->right, $from, $to - $from), $block->mono),
        };
    }

    /** All files end where the last of them does. */
    private function alignEnds(): void
    {
        $longest = max(array_map(static fn (RecordedTap $tap): int => $tap->frames(), $this->taps));
        foreach ($this->taps as $tap) {
            $tap->fill($longest);
        }
    }

    /**
     * Samples after the range in which it is looked whether something can be heard: twice the tails its inserts and what feeds it name,
     * as those may end at −60 dB, and a moment in which what makes sound by itself shows.
     */
    private function longestTail(int $rate): int
    {
        $tails = $this->plan->tails();
        $longest = max(array_map(static fn (RecordedTap $tap): int => $tails[$tap->tap->channel], $this->taps));

        return min(2 * $longest + intdiv($rate, 10), self::LONGEST_TAIL * $rate);
    }
}
