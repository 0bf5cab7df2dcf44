<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;

/** A position in the grid of sends, with the values wanted there; what is null stays as it is. */
final readonly class SendPosition
{
    /** @param  ?array{?float}  $gain  dB, null in it is silence; null instead of it leaves the gain */
    public function __construct(
        public string $channel,
        public string $to,
        public ?array $gain = null,
        public ?TapPoint $tap = null,
        public ?bool $on = null,
        public ?float $pan = null,
    ) {
    }

    public function applied(Send $send): Send
    {
        $send = $this->gain === null ? $send : $send->withGain($this->gain[0]);

        return $send->withTap($this->tap ?? $send->tap)->withOn($this->on ?? $send->on)->withPan($this->pan ?? $send->pan);
    }
}
