<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\SplitIntoItself;
use Hafen\Edit\Split\Branches;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Two inserts change places, in one row or across branches and channels. */
final readonly class SwapInserts implements Edit
{
    public function __construct(public string $insert, public string $with)
    {
    }

    public function apply(Session $session): Session
    {
        $one = Channels::insert($session, $this->insert);
        $two = Channels::insert($session, $this->with);
        if ($one->insert->id() === $two->insert->id()) {
            return $session;
        }
        if (self::holds($one->insert, $two->insert) || self::holds($two->insert, $one->insert)) {
            throw SplitIntoItself::always();
        }
        // A stand-in keeps the first place while the second is filled: an id is in a session once.
        $standIn = new ProcessorInsert('swapped', 'gain');
        $session = $session->withInsert($one, $standIn);
        $session = $session->withInsert(Channels::insert($session, $two->insert->id()), $one->insert);

        return $session->withInsert(Channels::insert($session, $standIn->id), $two->insert);
    }

    public function label(Session $before): string
    {
        return 'Swap two inserts on '.($before->locate($this->insert)->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        $paths = ["inserts/{$this->insert}/place", "inserts/{$this->with}/place"];
        foreach ([$this->insert, $this->with] as $id) {
            $channel = $before->locate($id)?->channel->id;
            if ($channel !== null) {
                $paths[] = "channels/{$channel}/row";
            }
        }

        return array_values(array_unique($paths));
    }

    private static function holds(Insert $outer, Insert $inner): bool
    {
        return in_array("inserts/{$inner->id()}", Branches::within($outer), true);
    }
}
