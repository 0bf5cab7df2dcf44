<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\OtherSetting;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/**
 * Goes over to the other of an insert's two settings. Where there is only one, it is kept as side 1 and a copy of it is worked on
 * as side 2.
 */
final readonly class SwapSettings implements Edit
{
    public function __construct(public string $insert)
    {
    }

    public function apply(Session $session): Session
    {
        return ProcessorInserts::change($session, $this->insert, static fn (ProcessorInsert $insert): ProcessorInsert => $insert
            ->withParameters($insert->other->parameters ?? $insert->parameters)
            ->withOther(new OtherSetting($insert->other === null ? 1 : 3 - $insert->other->side, $insert->parameters)));
    }

    public function label(Session $before): string
    {
        $location = $before->locate($this->insert);
        $insert = $location?->insert;
        $side = $insert instanceof ProcessorInsert && $insert->other !== null ? $insert->other->side : 2;

        return "Setting {$side} on ".($location->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/parameters", "inserts/{$this->insert}/other"];
    }
}
