<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;

/**
 * Measures loudness as it goes: momentary (0.4 s), short-term (3 s), integrated with its two gates, and the loudness range.
 *
 * Kept are the sums of each tenth of a second, so the memory grows with the length, by a few kilobytes a minute.
 * Source: ITU-R BS.1770 (weighting, gates at -70 LUFS and 10 LU below), EBU Tech 3341 (momentary, short-term), EBU Tech
 * 3342 (range: 10th to 95th percentile of short-term values above -70 LUFS and 20 LU below their mean).
 */
final class LoudnessMeter
{
    private const OFFSET = -0.691;

    private const SILENCE = -70.0;

    private readonly WeightedEnergy $left;

    private WeightedEnergy $right;

    /** Frames of a tenth of a second. */
    private readonly int $step;

    /** @var list<float> mean square of both sides together in each tenth */
    private array $tenths = [];

    private float $energy = 0.0;

    private int $frames = 0;

    public function __construct(int $sampleRate)
    {
        $this->left = new WeightedEnergy($sampleRate);
        $this->right = clone $this->left;
        $this->step = intdiv($sampleRate, 10);
    }

    /** Measures a block without changing it. */
    public function measure(Block $block): void
    {
        // Where two sides still ring they are measured apart.
        $isMono = $block->mono && $this->right->isLike($this->left);
        $isSilent = $block->isSilent && $this->left->isAtRest() && $this->right->isAtRest();
        $frames = $block->frames();
        for ($at = 0; $at < $frames;) {
            $count = min($this->step - $this->frames, $frames - $at);
            $energy = $isSilent ? 0.0 : $this->left->next($block->left, $at, $at + $count);
            $energy += $isMono || $isSilent ? $energy : $this->right->next($block->right(), $at, $at + $count);
            $this->energy += $energy;
            $this->frames += $count;
            $at += $count;
            if ($this->frames === $this->step) {
                $this->tenths[] = $this->energy / $this->step;
                $this->energy = 0.0;
                $this->frames = 0;
            }
        }
        if ($isMono) {
            $this->right = clone $this->left;
        }
    }

    /** Loudness of the last 0.4 s in LUFS; null before there are as many, or in silence. */
    public function momentary(): ?float
    {
        return $this->last(4);
    }

    /** Loudness of the last 3 s in LUFS; null before there are as many, or in silence. */
    public function shortTerm(): ?float
    {
        return $this->last(30);
    }

    public function read(): Loudness
    {
        $momentary = $this->windows(4);
        $short = $this->windows(30);

        return new Loudness(
            self::integrated($momentary),
            self::range($short),
            $momentary === [] ? null : self::level(max($momentary)),
            $short === [] ? null : self::level(max($short)),
        );
    }

    private function last(int $tenths): ?float
    {
        return count($this->tenths) < $tenths ? null : self::level(array_sum(array_slice($this->tenths, -$tenths)) / $tenths);
    }

    /** @return list<float> mean squares of windows of so many tenths, one starting at each tenth */
    private function windows(int $tenths): array
    {
        $count = count($this->tenths) - $tenths + 1;
        if ($count <= 0) {
            return [];
        }
        $windows = [];
        for ($i = 0; $i < $count; ++$i) {
            $windows[] = array_sum(array_slice($this->tenths, $i, $tenths)) / $tenths;
        }

        return $windows;
    }

    /** @param  list<float>  $windows */
    private static function integrated(array $windows): ?float
    {
        $loud = self::above($windows, self::SILENCE);
        if ($loud === []) {
            return null;
        }
        $loud = self::above($loud, (self::level(self::mean($loud)) ?? self::SILENCE) - 10.0);

        return $loud === [] ? null : self::level(self::mean($loud));
    }

    /** @param  list<float>  $windows */
    private static function range(array $windows): ?float
    {
        $loud = self::above($windows, self::SILENCE);
        if ($loud === []) {
            return null;
        }
        $loud = self::above($loud, (self::level(self::mean($loud)) ?? self::SILENCE) - 20.0);
        if ($loud === []) {
            return null;
        }
        sort($loud);
        $at = static fn (float $share): float => (float) self::level($loud[(int) round((count($loud) - 1) * $share)]);

        return $at(0.95) - $at(0.10);
    }

    /**
     * @param  list<float>  $squares
     * @return list<float>
     */
    private static function above(array $squares, float $level): array
    {
        $least = 10.0 ** (($level - self::OFFSET) / 10.0);

        return array_values(array_filter($squares, static fn (float $square): bool => $square > $least));
    }

    /** @param  non-empty-list<float>  $squares */
    private static function mean(array $squares): float
    {
        return array_sum($squares) / count($squares);
    }

    private static function level(float $square): ?float
    {
        return $square <= 1e-20 ? null : self::OFFSET + 10.0 * log10($square);
    }
}
