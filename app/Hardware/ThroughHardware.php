<?php

declare(strict_types=1);

namespace App\Hardware;

use App\Work\Claim;
use Hafen\Hardware\AudioInterface;
use Hafen\Hardware\NoInterface;
use Hafen\Hardware\NotMeasured;
use Hafen\Hardware\RealTimeInterface;
use Hafen\Hardware\UnitUnplugged;
use Hafen\Printing\RenderStopped;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Session;

/** Has work go through units of outboard: one at a time on each, and in real time. What needs none begins at once. */
final readonly class ThroughHardware
{
    /** Microseconds between two looks whether it is one's turn. */
    private const LOOK_EVERY = 50_000;

    /** Seconds in which what is measured by itself leaves. */
    private const PATIENCE = 3.0;

    /** @param  bool  $isOffline  the stand-ins need not run at the clock */
    public function __construct(private InterfaceDesk $desk, private UnitTurns $turns, private bool $isOffline, private bool $isElsewhere)
    {
    }

    /**
     * @template T
     *
     * @param  ?list<string>  $channels  ids of those whose sound is wanted; null is all of them
     * @param  Claim  $claim  on the task it is done for; while it waits for its turn the task can be stopped
     * @param  UnitUse  $use  what is measured by itself leaves as soon as somebody wants it, and begins anew later
     * @param  callable(?AudioInterface): T  $work  gets the interface where it needs it
     * @return T
     *
     * @throws RenderStopped when the task was stopped, or has to leave
     * @throws NotMeasured when sound would not be lined up
     * @throws UnitUnplugged when a unit is not there, or is taken away meanwhile
     * @throws NoInterface where the interface is not: on another machine
     */
    public function work(Session $session, ?array $channels, Claim $claim, UnitUse $use, callable $work): mixed
    {
        $loops = UnitPlaces::loops($session, $channels);
        if ($loops === []) {
            return $work(null);
        }
        if ($this->isElsewhere) {
            throw NoInterface::for($loops[0]);
        }
        $interface = $this->desk->open($session->sampleRate, $session->tempo);
        $interface->readAll(false);
        foreach ($loops as $loop) {
            UnitUnplugged::unless($loop, $this->desk->profile());
            NotMeasured::unless($loop, $interface->latency());
        }
        $turn = $this->turns->want(self::ports($loops), $use);
        try {
            while (! $turn->isMine()) {
                if (! $claim->beat()) {
                    throw RenderStopped::beforeItBegan();
                }
                usleep(self::LOOK_EVERY);
            }
            $claim->leaveWhen(function () use ($loops, $use, $turn): bool {
                $this->stopIfUnplugged($loops);

                return $use === UnitUse::Background && $turn->isWanted();
            });

            return $work($this->paced($interface, $session));
        } finally {
            $claim->leaveWhen(null);
            $turn->release();
        }
    }

    /** Stands in line to listen; null where a session goes through nothing. */
    public function turnToListen(Session $session): ?UnitTurn
    {
        $loops = UnitPlaces::loops($session, null);

        return $loops === [] ? null : $this->turns->want(self::ports($loops), UnitUse::Listening);
    }

    /**
     * Uses units now, or not at all: what is measured by itself is waited for to leave.
     *
     * @template T
     *
     * @param  ?list<HardwareLoop>  $loops  null is all the session goes through
     * @param  callable(?AudioInterface): T  $work  gets the interface where there are loops
     * @return T
     *
     * @throws UnitIsBusy when something else goes through one of them
     */
    public function atOnce(Session $session, ?array $loops, callable $work): mixed
    {
        $loops ??= UnitPlaces::loops($session, null);
        if ($loops === []) {
            return $work(null);
        }
        $turn = $this->turns->want(self::ports($loops), UnitUse::Asked);
        try {
            $until = microtime(true) + self::PATIENCE;
            while (! $turn->isMine()) {
                if (microtime(true) > $until) {
                    throw UnitIsBusy::named($loops[0]->name);
                }
                usleep(self::LOOK_EVERY);
            }

            return $work($this->paced($this->desk->open($session->sampleRate, $session->tempo), $session));
        } finally {
            $turn->release();
        }
    }

    /**
     * @param  list<HardwareLoop>  $loops
     *
     * @throws UnitUnplugged
     */
    private function stopIfUnplugged(array $loops): void
    {
        $profile = $this->desk->profile();
        foreach ($loops as $loop) {
            if (! UnitUnplugged::isPlugged($loop, $profile)) {
                throw UnitUnplugged::meanwhile($loop);
            }
        }
    }

    private function paced(AudioInterface $interface, Session $session): AudioInterface
    {
        return $this->isOffline ? $interface : new RealTimeInterface($interface, $session->sampleRate);
    }

    /**
     * @param  list<HardwareLoop>  $loops
     * @return list<int>
     */
    private static function ports(array $loops): array
    {
        return array_merge(...array_map(static fn (HardwareLoop $loop): array => $loop->outputs(), $loops));
    }
}
