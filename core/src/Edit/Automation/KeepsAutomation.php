<?php

declare(strict_types=1);

namespace Hafen\Edit\Automation;

use Hafen\Document\AutomationCodec;
use Hafen\Edit\Edit;
use Hafen\Session\Session;

/** Any edit, and after it: what moves an insert goes with it to another channel, and what moves something that is gone goes too. */
final readonly class KeepsAutomation implements Edit
{
    public function __construct(public Edit $edit)
    {
    }

    public function apply(Session $session): Session
    {
        $after = $this->edit->apply($session);
        $homeless = [];
        foreach ($after->channels as $channel) {
            foreach ($channel->automation as $lane) {
                if (! AutomationCodec::exists($lane->target, $channel)) {
                    $homeless[] = $lane;
                    $channel = $channel->withoutLane($lane->target);
                    $after = $after->withChannel($channel);
                }
            }
        }
        foreach ($homeless as $lane) {
            $home = $lane->target->isOfInsert() ? $after->locate((string) $lane->target->part)?->channel : null;
            $after = $home === null ? $after : $after->withChannel($home->withLane($lane));
        }

        return $after;
    }

    public function label(Session $before): string
    {
        return $this->edit->label($before);
    }

    public function touches(Session $before): array
    {
        return $this->edit->touches($before);
    }
}
