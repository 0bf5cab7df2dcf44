<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;

/** One way from a channel to another. */
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

    /** The same from one revision to the next, as long as it leads from the same place to the same place. */
    public function id(): string
    {
        $what = match (true) {
            $this->send !== null => "send:{$this->send->id}",
            $this->insert !== null => "key:{$this->insert}",
            default => $this->kind->value,
        };

        return "{$what}:{$this->from}:{$this->tap->value}:{$this->to}";
    }

    /** False for a send that is switched off. */
    public function isOn(): bool
    {
        return $this->send === null || $this->send->on;
    }
}
