<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Session\Channel\Width;

/** What comes into a channel strip: its clips, its notes, what comes in at the audio interface, or the sum of what other strips feed it. */
final class StripInput
{
    /** @var list<Feed> */
    private array $feeds = [];

    private ?Contribution $sum = null;

    /** @var list<string> ids of the channels that feed it */
    private array $sources = [];

    private int $waiting = 0;

    private bool $followsTap = false;

    private Width $width = Width::Stereo;

    private bool $keepsContributions = false;

    private ?float $click = null;

    /** @param  ?ClickPlayer  $clicks  of a cue */
    public function __construct(public readonly ?ClipPlayer $clips, public readonly ?LivePlayer $live = null, private readonly ?ClickPlayer $clicks = null, public readonly ?NotePlayer $notes = null)
    {
    }

    /** @param  ?float  $gain  of the click it hears in dBFS; null is none */
    public function click(?float $gain): void
    {
        $this->click = $gain;
    }

    public function widthOf(Width $width): void
    {
        $this->width = $width;
    }

    /**
     * @param  list<Feed>  $feeds  that this process works
     * @param  ?Contribution  $sum  of them and of what others sum; null where nothing feeds it
     * @param  list<string>  $sources  ids of the channels that feed it, wherever they are worked
     * @param  bool  $followsTap  there is one feed, and it is another channel's tap: it comes as wide as it is
     */
    public function feedBy(array $feeds, ?Contribution $sum, array $sources, bool $followsTap): void
    {
        $this->feeds = $feeds;
        $this->sum = $sum;
        $this->sources = $sources;
        $this->followsTap = $followsTap;
        foreach ($this->keepsContributions ? $feeds : [] as $feed) {
            $feed->keepParts();
        }
    }

    /** Delays clip playback by a number of samples: clips wait for sidechain signals that arrive later. */
    public function wait(int $samples): void
    {
        $this->waiting = $samples;
    }

    /** Keeps what each feed contributes to each block. */
    public function keepContributions(): void
    {
        $this->keepsContributions = true;
        foreach ($this->feeds as $feed) {
            $feed->keepParts();
        }
    }

    /**
     * What each feed contributed to the last block: its channel, and for both sides the samples and the gain they had
     * here; null for the right side is the same as the left.
     *
     * @return list<array{string, array{list<float>, float}, ?array{list<float>, float}}>
     */
    public function contributions(): array
    {
        $contributions = [];
        foreach ($this->keepsContributions ? $this->feeds : [] as $feed) {
            $parts = $feed->lastParts();
            if ($parts !== null) {
                $contributions[] = [$feed->from(), ...$parts];
            }
        }

        return $contributions;
    }

    public function settle(): void
    {
        foreach ($this->feeds as $feed) {
            $feed->settle();
        }
    }

    public function reset(): void
    {
        foreach ($this->feeds as $feed) {
            $feed->reset();
        }
    }

    /**
     * Returns the longest tail of the strips that feed this one, or its longest note, in samples.
     *
     * @param  array<string, int>  $others  tails of strips, by id
     */
    public function tail(array $others): int
    {
        return max([$this->notes?->longest() ?? 0, ...array_map(static fn (string $source): int => $others[$source] ?? 0, $this->sources)]);
    }

    /** @param  int  $position  in the session of the first sample, as the sources count */
    public function read(int $position, int $frames): Block
    {
        if ($this->clips !== null) {
            return $this->clips->read($position - $this->waiting, $frames);
        }
        if ($this->notes !== null) {
            $block = Block::silent($frames);
            $block->notes = $this->notes->read($position - $this->waiting, $frames);

            return $block;
        }
        $block = match (true) {
            $this->live !== null => $this->live->read($frames),
            $this->followsTap && count($this->feeds) === 1 => $this->feeds[0]->take($position, $frames),
            default => PartialSum::sum($this->sum === null ? [] : [$this->sum], $position, $frames),
        };
        if ($this->click !== null) {
            $this->clicks?->add($block, $position - $this->waiting, $this->click);
        }

        return $this->width === Width::Mono && ! $block->mono ? Block::mono(Samples::mid($block->left, $block->right)) : $block;
    }
}
