<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\RoutingRules;
use Hafen\Session\Channel\Send;
use Hafen\Session\FreshIds;
use Hafen\Session\Session;

/** Sets many sends at once, each as wanted, and makes those that are not there yet: a block of the grid, a pasted row. */
final readonly class PutSends implements Edit
{
    /** @param  list<SendPosition>  $positions */
    public function __construct(public array $positions)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->positions === []) {
            throw NothingSelected::atAll();
        }
        $ids = FreshIds::of($session);
        foreach ($this->positions as $position) {
            $channel = Channels::find($session, $position->channel);
            $target = Channels::find($session, $position->to);
            RoutingRules::canSend($channel, $target);
            $send = $channel->sendTo($target->id) ?? new Send($ids->send(), $target->id, $target->kind->usualGain(), $target->kind->usualTap());
            $session = $session->withChannel($channel->withSend($position->applied($send)));
        }

        return RoutingRules::withoutLoop($session);
    }

    public function label(Session $before): string
    {
        $first = $this->positions[0] ?? null;

        return count($this->positions) === 1 && $first !== null
            ? 'Send of '.Channels::named($before, [$first->channel]).' to '.Channels::named($before, [$first->to])
            : count($this->positions).' sends';
    }

    public function touches(Session $before): array
    {
        $paths = [];
        foreach ($this->positions as $position) {
            $send = $before->channel($position->channel)?->sendTo($position->to);
            array_push($paths, ...$send === null ? SendEdits::newPaths([$position->channel], $position->to) : ["sends/{$send->id}"]);
        }

        return $paths;
    }
}
