<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\RoutingRules;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;

/** Sets the sidechain of an insert to another channel's tap, or removes it. */
final readonly class SetSidechain implements Edit
{
    public function __construct(public string $insert, public ?TapSource $sidechain)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->sidechain !== null) {
            Channels::find($session, $this->sidechain->channel);
        }

        return RoutingRules::withoutLoop(ProcessorInserts::change(
            $session,
            $this->insert,
            fn (ProcessorInsert $insert): ProcessorInsert => $insert->withSidechain($this->sidechain),
        ));
    }

    public function label(Session $before): string
    {
        $location = $before->locate($this->insert)->channel->name ?? '';

        return $this->sidechain === null ? "{$location} listens to itself" : "{$location} listens to ".($before->channel($this->sidechain->channel)->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/key", ...($this->sidechain === null ? [] : ["channels/{$this->sidechain->channel}/feeds/{$this->insert}"])];
    }
}
