<?php

declare(strict_types=1);

namespace Hafen\Edit\Hardware;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Insert\InsertPosition;
use Hafen\Edit\Insert\Rows;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Session;

/** Puts a hardware loop into a row or a branch. */
final readonly class AddHardware implements Edit
{
    public function __construct(public string $loop, public InsertPosition $position)
    {
    }

    public function apply(Session $session): Session
    {
        Channels::find($session, $this->position->channel);
        $loop = Loops::find($session, $this->loop);

        return Rows::put($session, $this->position, [new HardwareInsert(FreshIds::of($session)->insert(), $loop->id)]);
    }

    public function label(Session $before): string
    {
        return ($before->loop($this->loop)->name ?? 'Loop').' on '.Channels::named($before, [$this->position->channel]);
    }

    public function touches(Session $before): array
    {
        return [...$this->position->touches(), "loops/{$this->loop}"];
    }
}
