<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Session;
use WeakMap;

/**
 * What follows from the routing of a session: routes, who is heard, latency compensation, where hardware is at work.
 *
 * A session never changes, so each answer is worked out once, when it is first asked for, and shared by edits, state, engine,
 * advice and survey. The answers go with their session.
 */
final class SessionGraph
{
    /** @var ?WeakMap<Session, self> */
    private static ?WeakMap $graphs = null;

    private ?Routes $routes = null;

    private ?Audibility $audibility = null;

    private ?SumBanks $banks = null;

    /** @var ?list<array{Channel, HardwareInsert}> */
    private ?array $unitPlaces = null;

    /** @var WeakMap<ProcessorCatalogue, Alignment> */
    private WeakMap $alignments;

    private function __construct()
    {
        $this->alignments = new WeakMap();
    }

    public static function routes(Session $session): Routes
    {
        return self::of($session)->routes ??= Routes::of($session);
    }

    public static function audibility(Session $session): Audibility
    {
        return self::of($session)->audibility ??= Audibility::of($session);
    }

    public static function sumBanks(Session $session): SumBanks
    {
        return self::of($session)->banks ??= SumBanks::of($session);
    }

    public static function alignment(Session $session, ProcessorCatalogue $processors): Alignment
    {
        return self::of($session)->alignments[$processors] ??= Alignment::of($session, $processors);
    }

    /** @return list<array{Channel, HardwareInsert}> see {@see UnitPlaces::of()} */
    public static function unitPlaces(Session $session): array
    {
        return self::of($session)->unitPlaces ??= UnitPlaces::find($session);
    }

    private static function of(Session $session): self
    {
        $graphs = self::$graphs ??= new WeakMap();

        return $graphs[$session] ??= new self();
    }
}
