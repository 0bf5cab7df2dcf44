<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;

/** Measures a tap between two readings. */
final class Meter
{
    private const NOTHING = [0.0, 0.0, 0, 0, null, null];

    private float $peak = 0.0;

    private float $energy = 0.0;

    private int $samples = 0;

    private int $overs = 0;

    private float $gainReduction = 0.0;

    private ?int $peakAt = null;

    private ?int $firstOver = null;

    /** @var array{float, float, int, int, ?int, ?int} of the block measured last, see {@see count()} */
    private array $last = self::NOTHING;

    private ?Window $window = null;

    private int $position = 0;

    /** @var array<int, float> most gain reduction in each range of {@see TapReading::REDUCTION_STEP} */
    private array $reductions = [];

    /** @var array{float, int} sum of squares and samples of the range that is running */
    private array $running = [0.0, 0];

    private ?float $floor = null;

    /** Limits measuring to a window and records positions of peaks. */
    public function limitTo(Window $window): void
    {
        $this->window = $window;
    }

    /**
     * Measures a block; returns false when it holds NaN or infinity.
     */
    public function measure(Block $block, int $sourcePosition): bool
    {
        if ($block->isSilent && $this->window === null) {
            $this->count([0.0, 0.0, 0, 2 * $block->frames(), null, null]);

            return true;
        }
        $position = $sourcePosition;
        if ($this->window !== null) {
            $counting = $this->window->cut($block, $sourcePosition);
            if ($counting === null) {
                $this->last = self::NOTHING;

                return true;
            }
            [$counted, $position] = $counting;
            $this->position = $position;
            if ($block->isSilent) {
                $this->count([0.0, 0.0, 0, 2 * $counted->frames(), null, null]);

                return true;
            }
            $block = $counted;
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
            $this->last = self::NOTHING;

            return false;
        }
        $this->count([
            $peak, $energy, $overs, 2 * $block->frames(),
            $this->window !== null && $peak > $this->peak ? $position + self::firstAt($block, $peak) : null,
            $this->window !== null && $overs > 0 && $this->firstOver === null ? $position + self::firstAbove($block) : null,
        ]);

        return true;
    }

    /** Copies the last measurement of another meter whose tap carries the same signal. */
    public function measureLike(self $other): void
    {
        $this->count($other->last);
    }

    public function reduced(float $decibels): void
    {
        if ($decibels > $this->gainReduction) {
            $this->gainReduction = $decibels;
        }
        if ($this->window !== null && $this->last !== self::NOTHING) {
            $step = intdiv($this->position - $this->window->from, TapReading::REDUCTION_STEP);
            $this->reductions[$step] = max($this->reductions[$step] ?? 0.0, $decibels);
        }
    }

    /** Returns the reading since the last call and resets. */
    public function read(): TapReading
    {
        $reading = $this->soFar();
        $this->peak = $this->energy = $this->gainReduction = 0.0;
        $this->samples = $this->overs = 0;
        $this->peakAt = $this->firstOver = null;
        $this->reductions = [];
        $this->floor = null;
        $this->running = [0.0, 0];

        return $reading;
    }

    /** The reading since the last call of {@see read()}. */
    public function soFar(): TapReading
    {
        return new TapReading(
            $this->peak,
            $this->samples > 0 ? $this->energy / $this->samples : 0.0,
            $this->overs,
            $this->gainReduction,
            $this->peakAt,
            $this->firstOver,
            $this->reductions,
            $this->floor,
        );
    }

    /** @param  array{float, float, int, int, ?int, ?int}  $measured  peak, energy, overs, samples; where a new peak and a first over were */
    private function count(array $measured): void
    {
        [$peak, $energy, $overs, $samples, $peakAt, $firstOver] = $this->last = $measured;
        if ($peak > $this->peak) {
            $this->peak = $peak;
            $this->peakAt = $peakAt;
        }
        $this->firstOver ??= $firstOver;
        $this->energy += $energy;
        $this->overs += $overs;
        $this->samples += $samples;
        if ($this->window !== null) {
            $this->look($energy, $samples);
        }
    }

    private function look(float $energy, int $samples): void
    {
        $this->running[0] += $energy;
        $this->running[1] += $samples;
        if ($this->running[1] >= 2 * TapReading::FLOOR_STEP) {
            $square = $this->running[0] / $this->running[1];
            if ($square > TapReading::SILENCE && ($this->floor === null || $square < $this->floor)) {
                $this->floor = $square;
            }
            $this->running = [0.0, 0];
        }
    }

    /** Index of the peak within the block. */
    private static function firstAt(Block $block, float $peak): int
    {
        for ($i = 0, $n = $block->frames(); $i < $n; ++$i) {
            if (abs($block->left[$i]) === $peak || (! $block->mono && abs($block->right[$i]) === $peak)) {
                return $i;
            }
        }

        return 0;
    }

    private static function firstAbove(Block $block): int
    {
        for ($i = 0, $n = $block->frames(); $i < $n; ++$i) {
            if (abs($block->left[$i]) > 1.0 || (! $block->mono && abs($block->right[$i]) > 1.0)) {
                return $i;
            }
        }

        return 0;
    }

    /**
     * @param  list<float>  $samples
     * @return array{float, float, int} peak, sum of squares, samples above full scale
     */
    private static function side(array $samples, float $peak): array
    {
        $energy = 0.0;
        $highest = $peak * $peak;
        // Of squares, so that no sign has to be looked at. The root of a square is the amplitude to the bit.
        foreach ($samples as $x) {
            $x *= $x;
            $energy += $x;
            if ($x > $highest) {
                $highest = $x;
            }
        }
        $peak = sqrt($highest);
        $overs = 0;
        if ($highest > 1.0) {
            foreach ($samples as $x) {
                if ($x > 1.0 || $x < -1.0) {
                    ++$overs;
                }
            }
        }

        return [$peak, $energy, $overs];
    }
}
