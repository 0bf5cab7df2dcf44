<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Closure;
use Hafen\Audio\Decibel;
use Hafen\Routing\PanLaw;
use Hafen\Session\Automation\AutomationCurve;
use Hafen\Session\Channel\Channel;

/** Turns a channel's automation lanes into gain over time. */
final class AutomationLaws
{
    /** Samples a mute takes to open or close, and the steps it is computed in. */
    private const MUTE = 256;

    private const PARTS = 4;

    /** @return ?Closure(int): float of fader and mute; null where neither moves */
    public static function level(Channel $channel): ?Closure
    {
        $fader = self::curve($channel, 'fader');
        $mute = self::curve($channel, 'mute');
        if ($fader === null && $mute === null) {
            return null;
        }

        return static fn (int $at): float => ($fader === null ? 1.0 : Decibel::toGain($fader->at($at))) * ($mute === null ? 1.0 : self::open($mute, $at));
    }

    /** @return ?array{Closure(int): float, Closure(int): float} of both sides; null where the pan does not move */
    public static function pan(Channel $channel, float $panLaw): ?array
    {
        $pan = self::curve($channel, 'pan');
        if ($pan === null) {
            return null;
        }

        return [
            static fn (int $at): float => PanLaw::gains($channel->width, (float) $pan->at($at), $panLaw)[0],
            static fn (int $at): float => PanLaw::gains($channel->width, (float) $pan->at($at), $panLaw)[1],
        ];
    }

    /** @return ?Closure(int): float of a send's amount; null where it does not move */
    public static function send(Channel $channel, string $send): ?Closure
    {
        $curve = self::curve($channel, "send:{$send}");

        return $curve === null ? null : static fn (int $at): float => Decibel::toGain($curve->at($at));
    }

    /** @return ?Closure(int): float of an insert's share; null where it does not move */
    public static function mix(Channel $channel, string $insert): ?Closure
    {
        $curve = self::curve($channel, "mix:{$insert}");

        return $curve === null ? null : static fn (int $at): float => (float) $curve->at($at);
    }

    private static function curve(Channel $channel, string $target): ?AutomationCurve
    {
        $lane = $channel->lane($target);

        return $lane === null ? null : new AutomationCurve($lane);
    }

    private static function open(AutomationCurve $mute, int $at): float
    {
        $open = 0;
        for ($part = 0; $part < self::PARTS; ++$part) {
            $open += $mute->at($at - intdiv($part * self::MUTE, self::PARTS)) >= 0.5 ? 0 : 1;
        }

        return $open / self::PARTS;
    }
}
