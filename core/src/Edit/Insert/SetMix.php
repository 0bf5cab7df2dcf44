<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NoSuchInsert;
use Hafen\Session\Insert\HardwareInsert;
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
        $location = Channels::insert($session, $this->insert);

        return $location->insert instanceof ProcessorInsert || $location->insert instanceof HardwareInsert
            ? $session->withInsert($location, $location->insert->withMix($this->mix))
            : throw NoSuchInsert::withId($this->insert);
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
