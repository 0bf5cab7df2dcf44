<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Edit\Edit;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;

/** Takes sends at another point of their channels. */
final readonly class SetSendTap implements Edit
{
    /** @param  list<string>  $sends */
    public function __construct(public array $sends, public TapPoint $tap)
    {
    }

    public function apply(Session $session): Session
    {
        return SendEdits::each($session, $this->sends, fn (Send $send): Send => $send->withTap($this->tap));
    }

    public function label(Session $before): string
    {
        return SendEdits::named($before, $this->sends).' '.$this->tap->words();
    }

    public function touches(Session $before): array
    {
        return SendEdits::paths($this->sends, 'tap');
    }
}
