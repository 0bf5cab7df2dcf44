<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Sets how much of an insert is heard, from 0 (dry) to 1 (wet). */
final readonly class SetMix implements Edit
{
    public function __construct(public string $insert, public float $mix)
    {
    }

    public function apply(Session $session): Session
    {
        return ProcessorInserts::change($session, $this->insert, fn (ProcessorInsert $insert): ProcessorInsert => $insert->withMix($this->mix));
    }

    public function label(Session $before): string
    {
        return 'Mix '.round($this->mix * 100).' % on '.($before->locate($this->insert)->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/mix"];
    }
}
