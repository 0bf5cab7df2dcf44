<?php

declare(strict_types=1);

namespace Hafen\Audio;

use Hafen\Note\NoteEvent;

/**
 * A short range of sound under work: one packed list of samples per side, changed in place.
 *
 * While `mono` is true both sides are the same and only `left` holds samples; whoever makes width
 * calls {@see widen()} first. To change a side without a copy, take the list out, leave an empty
 * one behind, work, and put it back: PHP then writes into the one list that is there.
 */
final class Block
{
    /** @var list<float> */
    public array $left;

    /** @var list<float> */
    public array $right;

    public bool $mono;

    /** Known to be silence; whoever puts sound in says that it is not. */
    public bool $isSilent = false;

    /** @var list<NoteEvent> notes on their way to an instrument, counted from the start of the block, in their order */
    public array $notes = [];

    /** @var list<float> */
    private static array $zeros = [];

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     */
    public function __construct(array $left, array $right = [], bool $mono = false)
    {
        $this->left = $left;
        $this->right = $right;
        $this->mono = $mono;
    }

    /** A block that is known to be silent. */
    public static function silent(int $frames): self
    {
        if (count(self::$zeros) !== $frames) {
            self::$zeros = array_fill(0, $frames, 0.0);
        }
        $block = new self(self::$zeros, [], true);
        $block->isSilent = true;

        return $block;
    }

    /** A silent stereo block. */
    public static function silence(int $frames): self
    {
        $zeros = array_fill(0, $frames, 0.0);

        return new self($zeros, $zeros);
    }

    /**
     * A mono block: both sides carry these samples.
     *
     * @param  list<float>  $samples
     */
    public static function mono(array $samples): self
    {
        return new self($samples, [], true);
    }

    /** Makes it known to be silent. */
    public function fallSilent(): void
    {
        $zeros = array_fill(0, count($this->left), 0.0);
        $this->left = $zeros;
        $this->right = $this->mono ? [] : $zeros;
        $this->isSilent = true;
    }

    public function frames(): int
    {
        return count($this->left);
    }

    /** A copy of some of its frames. */
    public function part(int $offset, int $frames): self
    {
        $part = $this->isSilent
            ? self::silent($frames)
            : new self(array_slice($this->left, $offset, $frames), $this->mono ? [] : array_slice($this->right, $offset, $frames), $this->mono);
        $part->notes = $this->notes === [] ? [] : NoteEvent::within($this->notes, $offset, $frames);

        return $part;
    }

    /** Makes two sides of one. */
    public function widen(): void
    {
        if ($this->mono) {
            $this->right = $this->left;
            $this->mono = false;
        }
    }

    /**
     * The right side, whether or not it is the same as the left.
     *
     * @return list<float>
     */
    public function right(): array
    {
        return $this->mono ? $this->left : $this->right;
    }
}
