<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Session;

/** A route from one channel to another. */
final readonly class Route
{
    /**
     * @param  string  $from  id of a channel
     * @param  string  $to  id of a channel
     * @param  ?Send  $send  where it is one
     * @param  ?string  $insert  that listens, where it is a key
     * @param  ?float  $performer  dB that who hears the cue puts on top of the send; null is silence
     */
    public function __construct(
        public RouteKind $kind,
        public string $from,
        public TapPoint $tap,
        public string $to,
        public ?Send $send = null,
        public ?string $insert = null,
        public ?float $performer = 0.0,
    ) {
    }

    /** Gain in dB of a send that nothing moves; null is silence. */
    public function gain(): ?float
    {
        return $this->send?->gain === null || $this->performer === null ? null : $this->send->gain + $this->performer;
    }

    /** Identifies the route across revisions, as long as its ends stay the same. */
    public function id(): string
    {
        $what = match (true) {
            $this->send !== null => "send:{$this->send->id}",
            $this->insert !== null => "key:{$this->insert}",
            default => $this->kind->value,
        };

        return "{$what}:{$this->from}:{$this->tap->value}:{$this->to}";
    }

    /** Whether it leads to what an insert after the fader listens to. */
    public function isBehindFader(Session $session): bool
    {
        $behind = Inserts::all($session->channel($this->to)->postInserts ?? []);

        return $this->kind === RouteKind::Sidechain && in_array($this->insert, array_map(static fn (Insert $insert): string => $insert->id(), $behind), true);
    }

    /** Returns whether the route carries sound: false for a send that is off. */
    public function isOn(): bool
    {
        return $this->send === null || $this->send->on;
    }
}
