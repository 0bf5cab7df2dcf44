<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/** The highest sample in each of equally long ranges: what a sound looks like from afar. */
final class OverviewMeter
{
    /** @var list<float> */
    private array $peaks;

    public function __construct(private readonly int $from, private readonly int $to, int $points)
    {
        $this->peaks = array_fill(0, max(1, min($points, $to - $from)), 0.0);
    }

    /** @param  int  $position  of the block's first sample */
    public function measure(Block $block, int $position): void
    {
        $frames = $block->frames();
        $points = count($this->peaks);
        $length = $this->to - $this->from;
        for ($at = 0; $at < $frames;) {
            $point = intdiv(($position + $at - $this->from) * $points, $length);
            $end = min($frames, intdiv(($point + 1) * $length + $points - 1, $points) + $this->from - $position);
            $peak = Samples::peak(array_slice($block->left, $at, $end - $at));
            if (! $block->mono) {
                $peak = max($peak, Samples::peak(array_slice($block->right, $at, $end - $at)));
            }
            $this->peaks[$point] = max($this->peaks[$point], $peak);
            $at = $end;
        }
    }

    /** @return list<float> amplitudes */
    public function read(): array
    {
        return $this->peaks;
    }
}
