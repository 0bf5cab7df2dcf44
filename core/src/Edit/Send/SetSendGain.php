<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Audio\Decibel;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Send;
use Hafen\Session\Session;

/** Sets how much sends carry, in dB; null is silence. */
final readonly class SetSendGain implements Edit
{
    /** @param  list<string>  $sends */
    public function __construct(public array $sends, public ?float $gain)
    {
    }

    public function apply(Session $session): Session
    {
        return SendEdits::each($session, $this->sends, fn (Send $send): Send => $send->withGain($this->gain));
    }

    public function label(Session $before): string
    {
        return SendEdits::named($before, $this->sends).' '.Decibel::text($this->gain, 'dB', true);
    }

    public function touches(Session $before): array
    {
        return SendEdits::paths($this->sends, 'gain');
    }
}
