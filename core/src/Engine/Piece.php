<?php

declare(strict_types=1);

namespace Hafen\Engine;

/**
 * A block as a part of a longer stretch. Channels that do not wait for live sound are worked a stretch at a time, as long blocks take less of
 * the machine; channels that do are worked piece by piece, as short as the buffer of the interface.
 */
final readonly class Piece
{
    /**
     * @param  int  $start  position of the stretch, as the sources count
     * @param  int  $stretch  frames of the stretch
     * @param  int  $offset  frames of the stretch before this piece
     * @param  int  $frames  of this piece
     */
    private function __construct(public int $start, public int $stretch, public int $offset, public int $frames)
    {
    }

    /** The first piece of a stretch, at most so many frames long. */
    public static function first(int $position, int $stretch, int $most): self
    {
        return new self($position, $stretch, 0, min($stretch, $most));
    }

    /** A stretch that is worked in one piece. */
    public static function whole(int $position, int $frames): self
    {
        return self::first($position, $frames, $frames);
    }

    /** The piece after this one, at most so many frames long; null at the end of the stretch. */
    public function next(int $most): ?self
    {
        $offset = $this->offset + $this->frames;

        return $this->isLast() ? null : new self($this->start, $this->stretch, $offset, min($this->stretch - $offset, $most));
    }

    /** Position of its first sample, as the sources count. */
    public function position(): int
    {
        return $this->start + $this->offset;
    }

    public function isFirst(): bool
    {
        return $this->offset === 0;
    }

    public function isLast(): bool
    {
        return $this->offset + $this->frames === $this->stretch;
    }

    public function isWhole(): bool
    {
        return $this->frames === $this->stretch;
    }
}
