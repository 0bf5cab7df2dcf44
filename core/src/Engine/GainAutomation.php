<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Closure;
use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/**
 * A gain over time, evaluated on a fixed grid of the session and interpolated linearly, so that
 * blocks of any length sound the same. When the law is changed while it sounds, the way to the new one is faded.
 */
final class GainAutomation
{
    /** Crossfade from one law to the next in ms. */
    private const FADE = 20.0;

    /** @var ?Closure(int): float amplitude at a sample of the session */
    private ?Closure $law = null;

    private float $last = 1.0;

    /** Remaining difference between the old and the new law. */
    private float $step = 0.0;

    private int $left = 0;

    private bool $isChanged = false;

    private readonly int $fade;

    public function __construct(int $sampleRate)
    {
        $this->fade = max(1, (int) round($sampleRate * self::FADE / 1000.0));
    }

    /** @param  ?Closure(int): float  $law  null leaves the sound as it is */
    public function follow(?Closure $law): void
    {
        $this->isChanged = $this->isChanged || $law !== null || $this->law !== null;
        $this->law = $law;
    }

    /** Jumps to its law. */
    public function settle(): void
    {
        $this->isChanged = false;
        $this->left = 0;
        $this->step = 0.0;
    }

    /** Returns whether the gain is 1 and does not move. */
    public function isIdle(): bool
    {
        return $this->law === null && $this->left === 0 && ! $this->isChanged;
    }

    /** @param  int  $position  in the session of the first sample */
    public function process(Block $block, int $position): void
    {
        if ($this->isIdle()) {
            return;
        }
        $gains = $this->gains($position, $block->frames());
        $block->left = Samples::multiply($block->left, $gains);
        if (! $block->mono) {
            $block->right = Samples::multiply($block->right, $gains);
        }
    }

    /** @return list<float> */
    public function gains(int $position, int $frames): array
    {
        $gains = [];
        for ($at = $position, $end = $position + $frames; $at < $end;) {
            $from = Grid::before($at);
            $to = min($end, Grid::after($at));
            array_push($gains, ...$this->interpolated($from, $at, $to));
            $at = $to;
        }
        if ($this->isChanged) {
            $this->isChanged = false;
            $this->step = $this->last - $gains[0];
            $this->left = abs($this->step) < 1e-6 ? 0 : $this->fade;
        }
        if ($this->left > 0) {
            $gains = $this->faded($gains);
        }
        $this->last = $gains[$frames - 1];

        return $gains;
    }

    /** @return list<float> from one sample up to another, both between two of the grid */
    private function interpolated(int $grid, int $from, int $to): array
    {
        $law = $this->law;
        if ($law === null) {
            return array_fill(0, $to - $from, 1.0);
        }
        $start = $law($grid);
        $slope = ($law($grid + Grid::STEP) - $start) / Grid::STEP;
        $gains = [];
        for ($i = $from - $grid, $n = $to - $grid; $i < $n; ++$i) {
            $gains[] = $start + $slope * $i;
        }

        return $gains;
    }

    /**
     * @param  list<float>  $gains
     * @return list<float>
     */
    private function faded(array $gains): array
    {
        $left = $this->left;
        $scale = $this->step / $this->fade;
        for ($i = 0, $n = min($left, count($gains)); $i < $n; ++$i) {
            $gains[$i] += $scale * ($left - $i);
        }
        $this->left = max(0, $left - count($gains));

        return $gains;
    }
}
