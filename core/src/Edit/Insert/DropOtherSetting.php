<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Keeps the setting at work and lets the other one go. */
final readonly class DropOtherSetting implements Edit
{
    public function __construct(public string $insert)
    {
    }

    public function apply(Session $session): Session
    {
        return ProcessorInserts::change($session, $this->insert, static fn (ProcessorInsert $insert): ProcessorInsert => $insert->withOther(null));
    }

    public function label(Session $before): string
    {
        return 'Keep one setting on '.($before->locate($this->insert)->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/other"];
    }
}
