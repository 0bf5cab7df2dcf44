<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\FreshIds;
use Hafen\Session\Send;
use Hafen\Session\Session;

/** Sets many sends at once, each as wanted, and makes those that are not there yet: a block of the grid, a pasted row. */
final readonly class PutSends implements Edit
{
    /** @param  list<SendCell>  $cells */
    public function __construct(public array $cells)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->cells === []) {
            throw EditRefused::nothingSelected();
        }
        $ids = FreshIds::of($session);
        foreach ($this->cells as $cell) {
            $channel = Channels::find($session, $cell->channel);
            $target = Channels::find($session, $cell->to);
            Ways::canSend($channel, $target);
            $send = $channel->sendTo($target->id) ?? new Send($ids->send(), $target->id, 0.0, $target->kind->usualTap());
            $session = $session->withChannel($channel->withSend($cell->applied($send)));
        }

        return Ways::withoutLoop($session);
    }

    public function label(Session $before): string
    {
        $first = $this->cells[0] ?? null;

        return count($this->cells) === 1 && $first !== null
            ? 'Send of '.Channels::named($before, [$first->channel]).' to '.Channels::named($before, [$first->to])
            : count($this->cells).' sends';
    }

    public function touches(Session $before): array
    {
        $paths = [];
        foreach ($this->cells as $cell) {
            $send = $before->channel($cell->channel)?->sendTo($cell->to);
            array_push($paths, ...$send === null ? SendEdits::newPaths([$cell->channel], $cell->to) : ["sends/{$send->id}"]);
        }

        return $paths;
    }
}
