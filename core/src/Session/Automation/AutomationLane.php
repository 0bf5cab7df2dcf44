<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

/** The automation of one control: points in the order of time. */
final readonly class AutomationLane
{
    public const MOST_POINTS = 4000;

    /** @param  non-empty-list<AutomationPoint>  $points */
    public function __construct(public AutomationTarget $target, public array $points)
    {
    }

    /** All gains moved by some dB; silence stays silence. */
    public function movedBy(float $decibels): self
    {
        return new self($this->target, array_map(
            static fn (AutomationPoint $point): AutomationPoint => $point->value === null ? $point : $point->withValue(round($point->value + $decibels, 3)),
            $this->points,
        ));
    }

    /** One that stays where this one is at a sample of the session. */
    public function heldAt(int $position): self
    {
        return new self($this->target, [new AutomationPoint(0, (new AutomationCurve($this))->at($position))]);
    }

    /** @return list<float> values that are not silence */
    public function values(): array
    {
        return array_values(array_filter(array_map(static fn (AutomationPoint $point): ?float => $point->value, $this->points), is_float(...)));
    }

    /** Whether it moves anything at all. */
    public function isMoving(): bool
    {
        return count(array_unique(array_map(static fn (AutomationPoint $point): string => serialize($point->value), $this->points))) > 1;
    }
}
