<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;

/** A route from one channel to another. */
final readonly class Route
{
    /**
     * @param  string  $from  id of a channel
     * @param  string  $to  id of a channel
     * @param  ?Send  $send  where it is one
     * @param  ?string  $insert  that listens, where it is a key
     */
    public function __construct(
        public RouteKind $kind,
        public string $from,
        public TapPoint $tap,
        public string $to,
        public ?Send $send = null,
        public ?string $insert = null,
    ) {
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

    /** Returns whether the route carries sound: false for a send that is off. */
    public function isOn(): bool
    {
        return $this->send === null || $this->send->on;
    }
}
