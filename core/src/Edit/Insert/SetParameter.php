<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Edit;
use Hafen\Processor\ParameterSpec;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Sets one parameter of an insert; the value was checked against its spec. */
final readonly class SetParameter implements Edit
{
    public function __construct(public string $insert, public ParameterSpec $parameter, public float|string|bool $value)
    {
    }

    public function apply(Session $session): Session
    {
        return ProcessorInserts::change(
            $session,
            $this->insert,
            fn (ProcessorInsert $insert): ProcessorInsert => $insert->withParameter($this->parameter->id, $this->value),
        );
    }

    public function label(Session $before): string
    {
        $value = match (true) {
            is_bool($this->value) => $this->value ? 'on' : 'off',
            is_string($this->value) => $this->parameter->choices[$this->value] ?? $this->value,
            default => round($this->value, 2).($this->parameter->unit === '' ? '' : ' '.$this->parameter->unit),
        };
        $group = $this->parameter->group === '' ? '' : $this->parameter->group.' ';

        return $group.$this->parameter->label." {$value} on ".($before->locate($this->insert)->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/parameters/{$this->parameter->id}"];
    }
}
