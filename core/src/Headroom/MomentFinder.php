<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Engine\Strip;
use Hafen\Engine\Tap;
use Hafen\Session\Channel;
use Hafen\Session\Width;

/** Follows what the main's strip sums, block by block, and keeps its loudest sample with what each feed brought to it. */
final class MomentFinder
{
    private readonly float $trim;

    private ?LoudestMoment $loudest = null;

    private float $peak = 0.0;

    /** @param  Strip  $strip  of the main; it is made to remember what its feeds bring */
    public function __construct(private readonly Strip $strip, private readonly Channel $main)
    {
        $this->trim = Decibel::toGain($main->trim->gain) * ($main->trim->invert ? -1.0 : 1.0);
        $strip->remember();
        $strip->keep(Tap::SOURCE);
    }

    /**
     * Looks at the block the strip worked last.
     *
     * @param  int  $position  in the session of its first sample
     * @param  int  $from  first sample that counts
     * @param  int  $to  first sample that no longer does
     */
    public function look(int $position, int $from, int $to): void
    {
        $entering = $this->strip->passing(Tap::SOURCE, 0);
        $first = max(0, $from - $position);
        $count = min($entering->frames(), $to - $position) - $first;
        if ($count <= 0 || $this->strip->brought() === []) {
            return;
        }
        foreach ($entering->mono ? [$entering->left] : [$entering->left, $entering->right] as $side => $sum) {
            if (Samples::peak($sum) <= $this->peak) {
                continue;
            }
            foreach (array_slice($sum, $first, $count) as $i => $sample) {
                if (abs($sample) > $this->peak) {
                    $this->peak = abs($sample);
                    $this->loudest = $this->moment($position + $first + $i, $first + $i, $side);
                }
            }
        }
    }

    /** Null when nothing came. */
    public function loudest(): ?LoudestMoment
    {
        return $this->loudest;
    }

    private function moment(int $position, int $frame, int $side): LoudestMoment
    {
        $contributions = [];
        foreach ($this->strip->brought() as [$from, $left, $right]) {
            $right ??= $left;
            $values = [$left[0][$frame] * $left[1], $right[0][$frame] * $right[1]];
            $value = $this->main->width === Width::Mono ? 0.5 * ($values[0] + $values[1]) : $values[$side];
            $contributions[$from] = ($contributions[$from] ?? 0.0) + $value * $this->trim;
        }
        $sum = array_sum($contributions);
        uasort($contributions, static fn (float $a, float $b): int => $b * ($sum < 0 ? -1 : 1) <=> $a * ($sum < 0 ? -1 : 1));

        return new LoudestMoment($position, $sum, $contributions);
    }
}
