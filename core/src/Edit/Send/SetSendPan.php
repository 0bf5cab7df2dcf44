<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Edit\Edit;
use Hafen\Session\Channel\Send;
use Hafen\Session\Session;

/** Sets where sends stand, from -1 (left) to +1 (right). */
final readonly class SetSendPan implements Edit
{
    /** @param  list<string>  $sends */
    public function __construct(public array $sends, public float $pan)
    {
    }

    public function apply(Session $session): Session
    {
        return SendEdits::each($session, $this->sends, fn (Send $send): Send => $send->withPan($this->pan));
    }

    public function label(Session $before): string
    {
        return 'Pan of '.lcfirst(SendEdits::named($before, $this->sends));
    }

    public function touches(Session $before): array
    {
        return SendEdits::paths($this->sends, 'pan');
    }
}
