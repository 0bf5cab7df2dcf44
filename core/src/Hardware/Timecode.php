<?php

declare(strict_types=1);

namespace Hafen\Hardware;

/** Where the session was at each block that went out, for those who play along with what they hear. */
final class Timecode
{
    /** Blocks that are kept at the least, more than the longest way through the interface takes. */
    private const KEPT = 1024;

    /** @var list<array{int, int, ?int}> clock at its first sample, frames, position in the session; null while nothing played */
    private array $blocks = [];

    /** @param  int  $clock  of the block's first sample */
    public function add(int $clock, int $frames, ?int $position): void
    {
        $this->blocks[] = [$clock, $frames, $position];
        // Nobody may ask for long.
        if (count($this->blocks) > 2 * self::KEPT) {
            $this->blocks = array_slice($this->blocks, -self::KEPT);
        }
    }

    /**
     * The stretches of a range of the clock in which the session went straight on; what lies before the first block is one in which nothing played.
     *
     * @return list<array{int, int, ?int}> clock at its first sample, frames, position in the session
     */
    public function between(int $from, int $frames): array
    {
        $end = $from + $frames;
        // What lies further back nobody asks for any more.
        while (isset($this->blocks[1]) && $this->blocks[1][0] <= $from) {
            array_shift($this->blocks);
        }
        $stretches = [];
        $at = $from;
        foreach ($this->blocks as [$clock, $count, $position]) {
            if ($clock >= $end || $clock + $count <= $at) {
                continue;
            }
            if ($clock > $at) {
                $stretches[] = [$at, $clock - $at, null];
                $at = $clock;
            }
            $until = min($end, $clock + $count);
            $stretches[] = [$at, $until - $at, $position === null ? null : $position + $at - $clock];
            $at = $until;
        }
        if ($at < $end) {
            $stretches[] = [$at, $end - $at, null];
        }

        return $stretches;
    }
}
