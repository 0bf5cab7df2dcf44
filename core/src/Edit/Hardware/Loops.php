<?php

declare(strict_types=1);

namespace Hafen\Edit\Hardware;

use Hafen\Edit\EditRefused;
use Hafen\Edit\Refusals\NoSuchLoop;
use Hafen\Edit\Refusals\PortIsTaken;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Session;

/** Finds the hardware loops edits name, and puts them into the session. */
final class Loops
{
    /** @throws EditRefused when it is not there */
    public static function find(Session $session, string $id): HardwareLoop
    {
        return $session->loop($id) ?? throw NoSuchLoop::withId($id);
    }

    /**
     * The session with a loop added, or changed where it is there.
     *
     * @throws EditRefused when something else uses its ports
     */
    public static function put(Session $session, HardwareLoop $loop): Session
    {
        foreach ($session->loops as $other) {
            if ($other->id !== $loop->id && $other->sharesPortsWith($loop)) {
                throw PortIsTaken::by("{$loop->send}, {$loop->return}", $other->name);
            }
        }
        foreach ($session->channels as $channel) {
            if (array_intersect(InterfacePorts::numbers($channel->output, 'hw'), $loop->outputs()) !== []) {
                throw PortIsTaken::by($loop->send, $channel->name);
            }
        }
        $isThere = $session->loop($loop->id) !== null;

        return $session->withLoops($isThere
            ? array_map(static fn (HardwareLoop $other): HardwareLoop => $other->id === $loop->id ? $loop : $other, $session->loops)
            : [...$session->loops, $loop]);
    }
}
