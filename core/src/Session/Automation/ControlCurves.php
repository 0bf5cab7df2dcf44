<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Macro\ControlRange;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Macro\MacroCurve;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Sound\SoundCurve;
use Hafen\Session\Sound\SoundSwitch;

/**
 * Finds what moves a control over time: its own lane; otherwise the automated macros that move it; otherwise an automated sound switch.
 */
final class ControlCurves
{
    /**
     * @param  ?float  $standing  where the control stands without automation, for sounds that do not know it
     * @return ?ControlCurve null where nothing moves it
     */
    public static function of(Channel $channel, string $target, ControlRange $range, ?float $standing, int $sampleRate): ?ControlCurve
    {
        if ($channel->automation === []) {
            return null;
        }
        $lane = $channel->lane($target);
        if ($lane !== null) {
            return new AutomationCurve($lane, $range->scale);
        }
        $moved = MacroTarget::fromString($target);

        return ($moved === null ? null : MacroCurve::of($channel, $moved, $range)) ?? SoundCurve::of($channel, $target, $range, $standing, $sampleRate);
    }

    /**
     * What moves a control over time; two channels in which it is equal move it alike.
     *
     * @return list<AutomationLane|Macro|SoundSwitch> nothing where it stands still
     */
    public static function movers(Channel $channel, string $target): array
    {
        $own = $channel->lane($target);
        $moved = $channel->automation === [] ? null : MacroTarget::fromString($target);
        if ($own !== null || $moved === null) {
            return $own === null ? [] : [$own];
        }
        $movers = $lanes = [];
        foreach ($channel->macros as $macro) {
            if ($macro->move($moved) !== null) {
                $movers[] = $macro;
                $lanes[] = $channel->lane("macro:{$macro->id}");
            }
        }
        foreach ($channel->sounds as $switch) {
            if ($switch->differs($target)) {
                $movers[] = $switch;
                $lanes[] = $channel->lane("sound:{$switch->id}");
            }
        }
        $lanes = array_values(array_filter($lanes));

        return $lanes === [] ? [] : [...$lanes, ...$movers];
    }

    /** Whether anything moves a control over time. */
    public static function isMoved(Channel $channel, string $target): bool
    {
        return self::movers($channel, $target) !== [];
    }
}
