<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Edit\Edit;
use Hafen\Session\Channel\Send;
use Hafen\Session\Session;

/** Switches sends on or off. */
final readonly class SetSendOn implements Edit
{
    /** @param  list<string>  $sends */
    public function __construct(public array $sends, public bool $on)
    {
    }

    public function apply(Session $session): Session
    {
        return SendEdits::each($session, $this->sends, fn (Send $send): Send => $send->withOn($this->on));
    }

    public function label(Session $before): string
    {
        return SendEdits::named($before, $this->sends).($this->on ? ' on' : ' off');
    }

    public function touches(Session $before): array
    {
        return SendEdits::paths($this->sends, 'on');
    }
}
