<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Edit;
use Hafen\Processor\ParameterSpec;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Locks one parameter of an insert against presets, or frees it. */
final readonly class SetLocked implements Edit
{
    public function __construct(public string $insert, public ParameterSpec $parameter, public bool $locked)
    {
    }

    public function apply(Session $session): Session
    {
        return ProcessorInserts::change(
            $session,
            $this->insert,
            fn (ProcessorInsert $insert): ProcessorInsert => $insert->withLocked($this->parameter->id, $this->locked),
        );
    }

    public function label(Session $before): string
    {
        return ($this->locked ? 'Lock ' : 'Unlock ').$this->parameter->label.' on '.($before->locate($this->insert)->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/locked/{$this->parameter->id}"];
    }
}
