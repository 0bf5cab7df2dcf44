<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\TooManyMacros;
use Hafen\Session\FreshIds;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Session;

/** A new macro of a channel, which moves nothing yet. */
final readonly class AddMacro implements Edit
{
    public function __construct(public string $channel, public string $name, public bool $isSwitch)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Channels::find($session, $this->channel);
        if (count($channel->macros) >= Macro::MOST) {
            throw TooManyMacros::on($channel->name, Macro::MOST);
        }

        return $session->withChannel($channel->withMacros([...$channel->macros, new Macro(FreshIds::of($session)->macro(), $this->name, $this->isSwitch)]));
    }

    public function label(Session $before): string
    {
        return "Macro {$this->name} on ".Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/macros"];
    }
}
