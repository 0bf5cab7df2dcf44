<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;

/** Measures what passes a tap until it is read. */
final class Meter
{
    private float $peak = 0.0;

    private float $energy = 0.0;

    private int $samples = 0;

    private int $overs = 0;

    private float $gainReduction = 0.0;

    /** @var array{float, float, int, int} peak, energy, overs and samples of the block measured last */
    private array $last = [0.0, 0.0, 0, 0];

    private int $from = PHP_INT_MIN;

    private int $to = PHP_INT_MAX;

    /**
     * Counts only what lies between two places from now on.
     *
     * @param  int  $from  first place that counts
     * @param  int  $to  first place that no longer does
     */
    public function limitTo(int $from, int $to): void
    {
        $this->from = $from;
        $this->to = $to;
    }

    /**
     * Takes in a block that starts at a place; false when it holds a sample that is not a number or infinite.
     */
    public function measure(Block $block, int $place): bool
    {
        $end = $place + $block->frames();
        if ($place < $this->from || $end > $this->to) {
            $first = max(0, $this->from - $place);
            $count = min($end, $this->to) - $place - $first;
            if ($count <= 0) {
                $this->last = [0.0, 0.0, 0, 0];

                return true;
            }
            $block = new Block(
                array_slice($block->left, $first, $count),
                $block->mono ? [] : array_slice($block->right, $first, $count),
                $block->mono,
            );
        }
        [$peak, $energy, $overs] = self::side($block->left, 0.0);
        if ($block->mono) {
            $energy *= 2;
            $overs *= 2;
        } else {
            [$peak, $more, $overRight] = self::side($block->right, $peak);
            $energy += $more;
            $overs += $overRight;
        }
        if (! is_finite($energy)) {
            $this->last = [0.0, 0.0, 0, 0];

            return false;
        }
        $this->count([$peak, $energy, $overs, 2 * $block->frames()]);

        return true;
    }

    /** Takes in what another meter measured last: for a tap that carries the same sound, as late. */
    public function measureLike(self $other): void
    {
        $this->count($other->last);
    }

    public function reduced(float $decibels): void
    {
        if ($decibels > $this->gainReduction) {
            $this->gainReduction = $decibels;
        }
    }

    /** What came since the last reading; starts anew. */
    public function read(): TapReading
    {
        $reading = new TapReading(
            $this->peak,
            $this->samples > 0 ? $this->energy / $this->samples : 0.0,
            $this->overs,
            $this->gainReduction,
        );
        $this->peak = $this->energy = $this->gainReduction = 0.0;
        $this->samples = $this->overs = 0;

        return $reading;
    }

    /** @param  array{float, float, int, int}  $measured */
    private function count(array $measured): void
    {
        [$peak, $energy, $overs, $samples] = $this->last = $measured;
        if ($peak > $this->peak) {
            $this->peak = $peak;
        }
        $this->energy += $energy;
        $this->overs += $overs;
        $this->samples += $samples;
    }

    /**
     * @param  list<float>  $samples
     * @return array{float, float, int} peak, sum of squares, samples above full scale
     */
    private static function side(array $samples, float $peak): array
    {
        $energy = 0.0;
        $overs = 0;
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $samples[$i];
            $energy += $x * $x;
            if ($x < 0.0) {
                $x = -$x;
            }
            if ($x > $peak) {
                $peak = $x;
            }
            if ($x > 1.0) {
                ++$overs;
            }
        }

        return [$peak, $energy, $overs];
    }
}
