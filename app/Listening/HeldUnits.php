<?php

declare(strict_types=1);

namespace App\Listening;

use App\Hardware\ThroughHardware;
use App\Hardware\UnitTurn;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Session;

/** The units of outboard a listener hears, while nobody else goes through them. */
final class HeldUnits
{
    /** Seconds between two looks whether they are free. */
    private const LOOK_EVERY = 0.1;

    private ?UnitTurn $turn = null;

    /** @var list<string> loops it stands in line for */
    private array $names = [];

    private bool $isMine = true;

    private float $looked = 0.0;

    public function __construct(private readonly ThroughHardware $hardware)
    {
    }

    /** The session as it can be heard: without its units while something else goes through them. */
    public function heardIn(Session $session): Session
    {
        $names = array_map(static fn (HardwareLoop $loop): string => $loop->name, UnitPlaces::loops($session, null));
        if ($names !== $this->names) {
            $this->release();
            $this->names = $names;
            $this->turn = $this->hardware->turnToListen($session);
        }
        $this->isMine = $this->turn?->isMine() ?? true;

        return $this->isMine ? $session : UnitPlaces::bypassed($session);
    }

    /** Whether units that were waited for can be heard now. */
    public function areFreed(): bool
    {
        if ($this->isMine || microtime(true) - $this->looked < self::LOOK_EVERY) {
            return false;
        }
        $this->looked = microtime(true);

        return $this->turn?->isMine() ?? true;
    }

    /** @return array{kind: 'units', busy: list<string>} names of the loops that are not heard */
    public function notice(): array
    {
        return ['kind' => 'units', 'busy' => $this->isMine ? [] : $this->names];
    }

    public function release(): void
    {
        $this->turn?->release();
        $this->turn = null;
        $this->names = [];
    }
}
