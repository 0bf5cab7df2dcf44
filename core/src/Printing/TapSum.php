<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\Block;

/** Adds up what passes several taps that get the same sample of the session at different times, each late by its own latency. */
final class TapSum
{
    /** @var list<float> what some taps have brought and others not yet */
    private array $left = [];

    /** @var list<float> */
    private array $right = [];

    /** @var array<string, int> frames each tap has brought, by its id */
    private array $brought;

    private int $done = 0;

    /** @param  non-empty-list<string>  $taps  ids */
    public function __construct(array $taps, private readonly bool $mono)
    {
        $this->brought = array_fill_keys($taps, 0);
    }

    /** @return ?Block what all taps have brought by now and had not before; null where that is nothing */
    public function add(string $tap, Block $block): ?Block
    {
        $at = $this->brought[$tap] - $this->done;
        $frames = $block->frames();
        $this->brought[$tap] += $frames;
        $this->left = self::added($this->left, $at, $block->left);
        if (! $this->mono) {
            $this->right = self::added($this->right, $at, $block->right());
        }
        $ready = min($this->brought) - $this->done;
        if ($ready === 0) {
            return null;
        }
        $this->done += $ready;

        return new Block(array_splice($this->left, 0, $ready), $this->mono ? [] : array_splice($this->right, 0, $ready), $this->mono);
    }

    /**
     * @param  list<float>  $sum
     * @param  list<float>  $side
     * @return list<float>
     */
    private static function added(array $sum, int $at, array $side): array
    {
        $known = min(count($side), count($sum) - $at);
        for ($i = 0; $i < $known; ++$i) {
            $sum[$at + $i] += $side[$i];
        }

        return [...$sum, ...array_slice($side, $known)];
    }
}
