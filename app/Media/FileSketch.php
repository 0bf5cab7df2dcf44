<?php

declare(strict_types=1);

namespace App\Media;

use Closure;
use Hafen\Audio\Samples;
use Hafen\Audio\WavReader;

/** A file seen from afar: its largest samples over time, and how many samples of it are no numbers. */
final readonly class FileSketch
{
    /** @param  list<float>  $overview  largest sample in each of equally long ranges */
    private function __construct(public array $overview, public int $unreadable)
    {
    }

    /**
     * @param  Closure(int, int): bool  $beat
     * @return ?self null when stopped
     */
    public static function of(WavReader $source, int $points, int $block, Closure $beat): ?self
    {
        $frames = $source->frames();
        $points = min($points, $frames);
        $overview = array_fill(0, $points, 0.0);
        $unreadable = 0;
        for ($at = 0; $at < $frames; $at += $block) {
            if (! $beat($frames + $at, 2 * $frames)) {
                return null;
            }
            $unreadable += $source->unreadable($at, $block);
            foreach ($source->read($at, min($block, $frames - $at)) as $side) {
                for ($i = 0, $count = count($side); $i < $count; $i += $length) {
                    $point = intdiv(($at + $i) * $points, $frames);
                    // Up to the first sample of the next point.
                    $length = intdiv(($point + 1) * $frames + $points - 1, $points) - $at - $i;
                    $overview[$point] = max($overview[$point], Samples::peak(array_slice($side, $i, $length)));
                }
            }
        }

        return new self(
            array_map(static fn (float $peak): float => round(min($peak, 1e6), 4), array_values($overview)),
            $unreadable,
        );
    }
}
