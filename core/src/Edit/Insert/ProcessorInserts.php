<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Refusals\NoSuchInsert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Changes one insert that is a processor. */
final class ProcessorInserts
{
    /** @param  callable(ProcessorInsert): ProcessorInsert  $change */
    public static function change(Session $session, string $id, callable $change): Session
    {
        $location = Channels::insert($session, $id);
        if (! $location->insert instanceof ProcessorInsert) {
            throw NoSuchInsert::withId($id);
        }

        return $session->withInsert($location, $change($location->insert));
    }
}
