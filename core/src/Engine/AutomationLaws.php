<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Closure;
use Hafen\Audio\Decibel;
use Hafen\Routing\PanLaw;
use Hafen\Session\Automation\AutomationCurve;
use Hafen\Session\Automation\ControlCurve;
use Hafen\Session\Automation\ControlCurves;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Macro\ControlRange;

/** Turns a channel's automation lanes into gains over time. */
final class AutomationLaws
{
    /** Samples a mute or another switch takes to open or close, and the steps it is computed in. */
    private const SWITCH = 256;

    private const PARTS = 4;

    /** @return ?Closure(int): float of fader and mute; null where neither moves */
    public static function level(Channel $channel): ?Closure
    {
        $fader = self::curve($channel, 'fader');
        $mute = self::curve($channel, 'mute');
        if ($fader === null && $mute === null) {
            return null;
        }

        return static fn (int $at): float => ($fader === null ? 1.0 : Decibel::toGain($fader->at($at))) * ($mute === null ? 1.0 : (1.0 - self::smoothed($mute, $at)));
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
    public static function send(Channel $channel, string $send, int $sampleRate): ?Closure
    {
        return self::gain(ControlCurves::of($channel, "send:{$send}", ControlRange::ofGain(), null, $sampleRate));
    }

    /** @return ?Closure(int): float of the level of a branch; null where it does not move */
    public static function branch(Channel $channel, Branch $branch, int $sampleRate): ?Closure
    {
        return self::gain(ControlCurves::of($channel, "branch:{$branch->id}", ControlRange::ofGain(), $branch->gain, $sampleRate));
    }

    /**
     * Of how much of an insert is heard: whether it is on, and its mix.
     *
     * @return array{?Closure(int): float, float} of what moves, null where nothing does; and what the rest is set to
     */
    public static function share(Channel $channel, Insert $insert, int $sampleRate): array
    {
        $id = $insert->id();
        $set = $insert instanceof ProcessorInsert || $insert instanceof HardwareInsert ? $insert->mix : 1.0;
        $on = ControlCurves::of($channel, "on:{$id}", ControlRange::ofSwitch(), (float) $insert->isOn(), $sampleRate);
        $mix = $insert instanceof Split ? null : ControlCurves::of($channel, "mix:{$id}", ControlRange::ofMix(), $set, $sampleRate);
        $still = $channel->insertsOn ? ($on !== null || $insert->isOn() ? 1.0 : 0.0) * ($mix === null ? $set : 1.0) : 0.0;

        return [match (true) {
            $on !== null && $mix !== null => static fn (int $at): float => self::smoothed($on, $at) * (float) $mix->at($at),
            $on !== null => static fn (int $at): float => self::smoothed($on, $at),
            $mix !== null => static fn (int $at): float => (float) $mix->at($at),
            default => null,
        }, $still];
    }

    /** @return ?Closure(int): float of where the selector of a split stands; null where it does not move */
    public static function selector(Channel $channel, Split $split, int $sampleRate): ?Closure
    {
        $curve = $split->selector === null ? null : ControlCurves::of($channel, "selector:{$split->id}", ControlRange::ofMix(), $split->selector->value, $sampleRate);

        return $curve === null ? null : static fn (int $at): float => (float) $curve->at($at);
    }

    /** @return ?Closure(int): float */
    private static function gain(?ControlCurve $curve): ?Closure
    {
        return $curve === null ? null : static fn (int $at): float => Decibel::toGain($curve->at($at));
    }

    private static function curve(Channel $channel, string $target): ?AutomationCurve
    {
        $lane = $channel->lane($target);

        return $lane === null ? null : new AutomationCurve($lane);
    }

    /** What a switch is at a sample, on its way for some time after it was switched. */
    private static function smoothed(ControlCurve $switch, int $at): float
    {
        $sum = 0.0;
        for ($part = 0; $part < self::PARTS; ++$part) {
            $sum += (float) $switch->at($at - intdiv($part * self::SWITCH, self::PARTS));
        }

        return $sum / self::PARTS;
    }
}
