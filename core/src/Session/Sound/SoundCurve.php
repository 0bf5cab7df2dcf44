<?php

declare(strict_types=1);

namespace Hafen\Session\Sound;

use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\ControlCurve;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Macro\ControlRange;

/**
 * Where an automated sound switch puts a control: from one sound to the next it goes along its travel, for as long as the switch fades. An
 * insert that goes on or off is somewhere between meanwhile.
 */
final readonly class SoundCurve implements ControlCurve
{
    /** Fades that are overtaken by the next, one within the other, at most. */
    private const DEEPEST = 8;

    /**
     * @param  list<float>  $places  the value on the travel, of each sound
     * @param  int  $fade  samples
     */
    private function __construct(private AutomationLane $lane, private array $places, private ControlRange $range, private int $fade)
    {
    }

    /** Null where no automated switch of the channel moves the control. */
    public static function of(Channel $channel, string $target, ControlRange $range, ?float $standing, int $sampleRate): ?self
    {
        foreach ($channel->sounds as $switch) {
            $lane = $channel->lane("sound:{$switch->id}");
            if ($lane !== null && $switch->differs($target)) {
                $places = array_map(static fn (Sound $sound): float => $range->travel->at((SoundSwitch::valueIn($sound, $target) ?: [$standing])[0]), $switch->sounds);

                return new self($lane, $places, $range, (int) round($switch->fade / 1000.0 * $sampleRate));
            }
        }

        return null;
    }

    public function at(int $position): ?float
    {
        $points = $this->lane->points;
        $index = count($points) - 1;
        while ($index > 0 && $points[$index]->at > $position) {
            --$index;
        }
        $place = $this->placeAt($index, $position, 0);

        return $this->range->isSwitch ? $place : $this->range->valueAt($place);
    }

    /** On the travel, between a point and the next one. */
    private function placeAt(int $index, int $position, int $depth): float
    {
        $point = $this->lane->points[$index];
        $to = $this->places[max(0, min(count($this->places) - 1, (int) $point->value))];
        $gone = $position - $point->at;
        if ($index === 0 || $gone >= $this->fade || $depth >= self::DEEPEST) {
            return $to;
        }
        $from = $this->placeAt($index - 1, $point->at, $depth + 1);

        return $from + ($to - $from) * max(0.0, $gone / $this->fade);
    }
}
