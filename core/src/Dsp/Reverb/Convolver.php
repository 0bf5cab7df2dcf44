<?php

declare(strict_types=1);

namespace Hafen\Dsp\Reverb;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/**
 * Convolves a path with a long impulse response: its first part in short blocks, the rest in long ones.
 *
 * Source: W. G. Gardner, "Efficient convolution without input-output delay", JAES 1995, with two block lengths. The sound comes later by one
 * short block.
 */
final class Convolver
{
    /** Samples by which the sound comes later. */
    public const DELAY = 512;

    private const LONG = 4096;

    private PartitionedConvolution $head;

    private ?PartitionedConvolution $rest;

    /** @var list<float> heard since the last short block */
    private array $left = [];

    /** @var list<float> */
    private array $right = [];

    /** @var list<float> heard since the last long block */
    private array $longLeft = [];

    /** @var list<float> */
    private array $longRight = [];

    /** @var list<float> what the rest of the response gives from here on */
    private array $restLeft;

    /** @var list<float> */
    private array $restRight;

    /** @var list<float> */
    private array $outLeft;

    /** @var list<float> */
    private array $outRight;

    /**
     * @param  list<float>  $left  impulse response
     * @param  list<float>  $right
     */
    public function __construct(array $left, array $right)
    {
        $this->head = new PartitionedConvolution(array_slice($left, 0, self::LONG), array_slice($right, 0, self::LONG), self::DELAY);
        $this->rest = count($left) > self::LONG ? new PartitionedConvolution(array_slice($left, self::LONG), array_slice($right, self::LONG), self::LONG) : null;
        $this->reset();
    }

    /** A copy works by itself on the same response, from silence. */
    public function __clone()
    {
        $this->head = clone $this->head;
        $this->rest = $this->rest === null ? null : clone $this->rest;
        $this->reset();
    }

    public function process(Block $block): void
    {
        $block->widen();
        $left = $right = [];
        for ($done = 0, $frames = $block->frames(); $done < $frames; $done = $end) {
            $end = min($frames, $done + self::DELAY - count($this->left));
            $length = $end - $done;
            $this->left = [...$this->left, ...array_slice($block->left, $done, $length)];
            $this->right = [...$this->right, ...array_slice($block->right, $done, $length)];
            $left = [...$left, ...array_slice($this->outLeft, 0, $length)];
            $right = [...$right, ...array_slice($this->outRight, 0, $length)];
            $this->outLeft = array_slice($this->outLeft, $length);
            $this->outRight = array_slice($this->outRight, $length);
            if (count($this->left) === self::DELAY) {
                $this->work();
            }
        }
        $block->left = $left;
        $block->right = $right;
    }

    public function reset(): void
    {
        $this->head->reset();
        $this->rest?->reset();
        $this->left = $this->right = $this->longLeft = $this->longRight = [];
        $this->restLeft = $this->restRight = array_fill(0, self::LONG, 0.0);
        $this->outLeft = $this->outRight = array_fill(0, self::DELAY, 0.0);
    }

    private function work(): void
    {
        [$left, $right] = $this->head->process($this->left, $this->right);
        if ($this->rest !== null) {
            $at = count($this->longLeft);
            $left = Samples::add($left, array_slice($this->restLeft, $at, self::DELAY));
            $right = Samples::add($right, array_slice($this->restRight, $at, self::DELAY));
            $this->longLeft = [...$this->longLeft, ...$this->left];
            $this->longRight = [...$this->longRight, ...$this->right];
            if (count($this->longLeft) === self::LONG) {
                [$this->restLeft, $this->restRight] = $this->rest->process($this->longLeft, $this->longRight);
                $this->longLeft = $this->longRight = [];
            }
        }
        $this->outLeft = $left;
        $this->outRight = $right;
        $this->left = $this->right = [];
    }
}
