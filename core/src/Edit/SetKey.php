<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\TapSource;

/** Has an insert listen to another channel's tap, or to its own sound again. */
final readonly class SetKey implements Edit
{
    public function __construct(public string $insert, public ?TapSource $key)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->key !== null) {
            Channels::find($session, $this->key->channel);
        }

        return Ways::withoutLoop(ProcessorInserts::change(
            $session,
            $this->insert,
            fn (ProcessorInsert $insert): ProcessorInsert => $insert->withKey($this->key),
        ));
    }

    public function label(Session $before): string
    {
        $place = $before->place($this->insert)->channel->name ?? '';

        return $this->key === null ? "{$place} listens to itself" : "{$place} listens to ".($before->channel($this->key->channel)->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/key", ...($this->key === null ? [] : ["channels/{$this->key->channel}/feeds/{$this->insert}"])];
    }
}
