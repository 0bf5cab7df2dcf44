<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Session\Channel\Width;

/** What comes into a channel strip: its clips, or the sum of what other strips feed it. */
final class StripInput
{
    /** @var list<Feed> */
    private array $feeds = [];

    private int $waiting = 0;

    private bool $followsTap = false;

    private Width $width = Width::Stereo;

    private bool $keepsContributions = false;

    /** @var list<array{string, array{list<float>, float}, ?array{list<float>, float}}> */
    private array $contributions = [];

    public function __construct(public readonly ?ClipPlayer $clips)
    {
    }

    public function widthOf(Width $width): void
    {
        $this->width = $width;
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

    /** Delays clip playback by a number of samples: clips wait for sidechain signals that arrive later. */
    public function wait(int $samples): void
    {
        $this->waiting = $samples;
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
     * Returns the longest tail of the strips that feed this one, in samples.
     *
     * @param  array<string, int>  $others  tails of strips, by id
     */
    public function tail(array $others): int
    {
        return max([0, ...array_map(static fn (Feed $feed): int => $others[$feed->from()] ?? 0, $this->feeds)]);
    }

    /** @param  int  $position  in the session of the first sample, as the sources count */
    public function read(int $position, int $frames): Block
    {
        if ($this->clips !== null) {
            return $this->clips->read($position - $this->waiting, $frames);
        }
        $block = $this->followsTap && count($this->feeds) === 1
            ? $this->feeds[0]->take($position, $frames)
            : $this->sum($position, $frames);

        return $this->width === Width::Mono && ! $block->mono ? Block::mono(Samples::mid($block->left, $block->right)) : $block;
    }

    /** Sums all feeds; feeds that are equal on both sides are summed once. */
    private function sum(int $position, int $frames): Block
    {
        $both = $left = $right = $this->contributions = [];
        foreach ($this->feeds as $feed) {
            $parts = $feed->parts($position, $frames);
            if ($parts === null) {
                continue;
            }
            [$one, $other] = $parts;
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
        if ($both === [] && $left === []) {
            return Block::silent($frames);
        }
        $common = Samples::addAllScaled(array_fill(0, $frames, 0.0), $both);

        return $left === [] ? Block::mono($common) : new Block(Samples::addAllScaled($common, $left), Samples::addAllScaled($common, $right));
    }
}
