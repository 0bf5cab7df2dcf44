<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/**
 * The range of a selector in which a branch is open, from 0 to 1, with the widths of the fades at its two edges. A fade lies half on each side
 * of its edge, so that ranges that meet fade into each other; at 0 and at 1, where nothing comes further, there is none.
 */
final readonly class SelectorRange
{
    public function __construct(public float $from, public float $to, public float $fadeFrom = 0.0, public float $fadeTo = 0.0)
    {
    }

    /**
     * Ranges of the same width side by side.
     *
     * @return list<self>
     */
    public static function evenly(int $branches): array
    {
        $fade = round(min(0.1, 0.5 / $branches), 4);

        return array_map(static fn (int $index): self => new self(round($index / $branches, 4), round(($index + 1) / $branches, 4), $fade, $fade), range(0, $branches - 1));
    }

    /** The amplitude of the branch where the selector stands at a place. */
    public function gain(float $place, SelectorFade $fade): float
    {
        return self::edge($place, $this->from, $this->fadeFrom, $this->from <= 0.0, $fade) * self::fall($place, $this->to, $this->fadeTo, $this->to >= 1.0, $fade);
    }

    /** The middle of where it is fully open, or of the range where its fades leave nothing. */
    public function middle(): float
    {
        $from = $this->from <= 0.0 ? 0.0 : $this->from + $this->fadeFrom / 2;
        $to = $this->to >= 1.0 ? 1.0 : $this->to - $this->fadeTo / 2;

        return round($from <= $to ? ($from + $to) / 2 : ($this->from + $this->to) / 2, 6);
    }

    private static function edge(float $place, float $edge, float $width, bool $isEnd, SelectorFade $fade): float
    {
        return match (true) {
            $isEnd => 1.0,
            $width <= 0.0 => $place >= $edge ? 1.0 : 0.0,
            default => $fade->gain(($place - $edge) / $width + 0.5),
        };
    }

    private static function fall(float $place, float $edge, float $width, bool $isEnd, SelectorFade $fade): float
    {
        return match (true) {
            $isEnd => 1.0,
            $width <= 0.0 => $place < $edge ? 1.0 : 0.0,
            default => $fade->gain(($edge - $place) / $width + 0.5),
        };
    }
}
