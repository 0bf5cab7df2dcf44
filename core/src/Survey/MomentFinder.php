<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Engine\ChannelStrip;
use Hafen\Engine\Tap;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Width;

/**
 * Follows what the main's strip sums, block by block, and keeps the loudest sample of the loudest blocks with what each feed
 * contributes to it.
 */
final class MomentFinder
{
    /** Number of moments kept, so that another can become the loudest when a channel is lowered. */
    public const MOST = 300;

    /** Moments below this share of the loudest are dropped. */
    private const RANGE = 0.5;

    private readonly float $trim;

    /** @var list<LoudestMoment> */
    private array $moments = [];

    private float $peak = 0.0;

    /** @param  ChannelStrip  $strip  of the main; it is made to remember what its feeds bring */
    public function __construct(private readonly ChannelStrip $strip, private readonly Channel $main)
    {
        $this->trim = Decibel::toGain($main->trim->gain) * ($main->trim->invert ? -1.0 : 1.0);
        $strip->input->keepContributions();
        $strip->keep(Tap::SOURCE);
    }

    /**
     * Measures the block the strip processed last.
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
        if ($count <= 0 || $this->strip->input->contributions() === []) {
            return;
        }
        $highest = 0.0;
        $frame = $side = 0;
        foreach ($entering->mono ? [$entering->left] : [$entering->left, $entering->right] as $number => $samples) {
            if (Samples::peak($samples) <= max($highest, self::RANGE * $this->peak)) {
                continue;
            }
            foreach (array_slice($samples, $first, $count) as $i => $sample) {
                if (abs($sample) > $highest) {
                    $highest = abs($sample);
                    [$frame, $side] = [$first + $i, $number];
                }
            }
        }
        if ($highest > self::RANGE * $this->peak) {
            $this->peak = max($this->peak, $highest);
            $this->moments[] = $this->moment($position + $frame, $frame, $side);
            if (count($this->moments) >= 4 * self::MOST) {
                $this->moments = $this->loudest();
            }
        }
    }

    /** @return list<LoudestMoment> the loudest first; none when nothing came */
    public function loudest(): array
    {
        $moments = array_values(array_filter($this->moments, fn (LoudestMoment $moment): bool => abs($moment->value) > self::RANGE * $this->peak));
        usort($moments, static fn (LoudestMoment $a, LoudestMoment $b): int => [abs($b->value), $a->position] <=> [abs($a->value), $b->position]);

        return array_slice($moments, 0, self::MOST);
    }

    private function moment(int $position, int $frame, int $side): LoudestMoment
    {
        $contributions = [];
        foreach ($this->strip->input->contributions() as [$from, $left, $right]) {
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
