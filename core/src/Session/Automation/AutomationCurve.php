<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

use Hafen\Processor\Scale;

/**
 * The value a lane has at every moment. Between points it goes along the travel of the control, so that what is drawn straight
 * on it sounds straight ({@see Travel}); switches hold.
 */
final class AutomationCurve implements ControlCurve
{
    /** Steps of the table between the lowest and the highest curve, and from a point to the next. */
    private const TABLE_CURVES = 40;

    private const TABLE_SHARES = 32;

    /** Index of the point found last: moments are mostly asked for in their order. */
    private int $near = 0;

    private readonly Travel $travel;

    private readonly bool $holds;

    /**
     * @param  Scale  $scale  of a parameter; of no account for others
     * @param  bool  $holds  it is of a switch, so that a value stays up to the next point; {@see AutomationKind::holds()} does so in any case
     */
    public function __construct(private readonly AutomationLane $lane, Scale $scale = Scale::Linear, bool $holds = false)
    {
        $kind = $lane->target->kind;
        $this->travel = $kind->isGain() ? Travel::ofGains() : Travel::along($kind === AutomationKind::Parameter ? $scale : Scale::Linear);
        $this->holds = $holds || $kind->holds();
    }

    /** @return ?float as {@see AutomationPoint}; null is silence */
    public function at(int $position): ?float
    {
        $points = $this->lane->points;
        $last = count($points) - 1;
        if ($position <= $points[0]->at || $last === 0) {
            return $points[0]->value;
        }
        if ($position >= $points[$last]->at) {
            return $points[$last]->value;
        }
        $index = $this->before($position);
        $from = $points[$index];
        if ($this->holds) {
            return $from->value;
        }
        $to = $points[$index + 1];
        $share = Travel::bent(($position - $from->at) / ($to->at - $from->at), $from->curve);

        return $this->travel->value($this->travel->at($from->value) + $share * ($this->travel->at($to->value) - $this->travel->at($from->value)));
    }

    /** Index of the last point that is not after a position between the first and the last. */
    private function before(int $position): int
    {
        $points = $this->lane->points;
        if ($points[$this->near]->at > $position) {
            $this->near = 0;
        }
        while ($points[$this->near + 1]->at <= $position) {
            ++$this->near;
        }

        return $this->near;
    }

    /**
     * How far the way between two points has come, for lanes that are drawn while they change.
     *
     * @return array{curves: list<float>, shares: list<list<float>>} for each curve, at evenly spaced shares of the time from 0 to 1
     */
    public static function table(): array
    {
        $curves = $shares = [];
        for ($index = 0; $index <= self::TABLE_CURVES; ++$index) {
            $curves[] = $curve = round(-1.0 + 2.0 * $index / self::TABLE_CURVES, 3);
            $shares[] = array_map(
                static fn (int $at): float => round(Travel::bent($at / self::TABLE_SHARES, $curve), 5),
                range(0, self::TABLE_SHARES),
            );
        }

        return ['curves' => $curves, 'shares' => $shares];
    }
}
