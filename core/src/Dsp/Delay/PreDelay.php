<?php

declare(strict_types=1);

namespace Hafen\Dsp\Delay;

use Hafen\Audio\Block;

/** Both sides later by up to a longest time; a change jumps, as fits what feeds a reverberation. */
final class PreDelay
{
    /** @var list<float> ring */
    private array $left;

    /** @var list<float> ring */
    private array $right;

    private int $writeIndex = 0;

    private int $length = 0;

    private readonly int $room;

    public function __construct(float $longestMilliseconds, private readonly int $sampleRate)
    {
        $this->room = (int) ceil($longestMilliseconds * $sampleRate / 1000.0) + 2;
        $this->left = $this->right = array_fill(0, $this->room, 0.0);
    }

    public function set(float $milliseconds): void
    {
        $this->length = (int) round($milliseconds * $this->sampleRate / 1000.0);
    }

    /** Samples. */
    public function length(): int
    {
        return $this->length;
    }

    public function process(Block $block): void
    {
        $block->widen();
        $left = $block->left;
        $right = $block->right;
        $block->left = $block->right = [];
        $ringLeft = $this->left;
        $ringRight = $this->right;
        $this->left = $this->right = [];
        $writeIndex = $this->writeIndex;
        $room = $this->room;
        $read = $writeIndex - $this->length;
        if ($read < 0) {
            $read += $room;
        }
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $ringLeft[$writeIndex] = $left[$i];
            $ringRight[$writeIndex] = $right[$i];
            $left[$i] = $ringLeft[$read];
            $right[$i] = $ringRight[$read];
            if (++$writeIndex === $room) {
                $writeIndex = 0;
            }
            if (++$read === $room) {
                $read = 0;
            }
        }
        $this->left = $ringLeft;
        $this->right = $ringRight;
        $this->writeIndex = $writeIndex;
        $block->left = $left;
        $block->right = $right;
    }

    public function reset(): void
    {
        $this->left = $this->right = array_fill(0, $this->room, 0.0);
        $this->writeIndex = 0;
    }
}
