<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Sets all parameters of an insert at once, as a preset does; what is not named goes to its default, what is locked stays. */
final readonly class SetParameters implements Edit
{
    /** @param  array<string, float|string|bool>  $parameters checked against their specs */
    public function __construct(public string $insert, public array $parameters, public string $presetName = '')
    {
    }

    public function apply(Session $session): Session
    {
        return ProcessorInserts::change(
            $session,
            $this->insert,
            function (ProcessorInsert $insert): ProcessorInsert {
                $locked = array_flip($insert->locked);

                return $insert->withParameters([...array_diff_key($this->parameters, $locked), ...array_intersect_key($insert->parameters, $locked)])->withPreset($this->presetName);
            },
        );
    }

    public function label(Session $before): string
    {
        $location = $before->locate($this->insert)->channel->name ?? '';

        return $this->presetName === '' ? "Reset an insert on {$location}" : "Preset {$this->presetName} on {$location}";
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/parameters"];
    }
}
