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

/** Copies sends, with all that is set on them, to other channels; what those send to the same places already is replaced. */
final readonly class CopySends implements Edit
{
    /**
     * @param  list<string>  $sends
     * @param  list<string>  $channels
     */
    public function __construct(public array $sends, public array $channels)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->sends === [] || $this->channels === []) {
            throw NothingSelected::atAll();
        }
        $ids = FreshIds::of($session);
        $copied = array_map(static fn (string $id): Send => SendEdits::find($session, $id)->send, $this->sends);
        foreach ($this->channels as $id) {
            foreach ($copied as $send) {
                $channel = Channels::find($session, $id);
                if ($channel->sendTo($send->to)?->id === $send->id) {
                    continue;
                }
                RoutingRules::canSend($channel, Channels::find($session, $send->to));
                $session = $session->withChannel($channel->withSend($send->withId($channel->sendTo($send->to)->id ?? $ids->send())));
            }
        }

        return RoutingRules::withoutLoop($session);
    }

    public function label(Session $before): string
    {
        return 'Copy '.lcfirst(SendEdits::named($before, $this->sends)).' to '.Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        $paths = [];
        foreach ($this->sends as $id) {
            $send = $before->send($id)?->send;
            if ($send !== null) {
                array_push($paths, "sends/{$id}", ...SendEdits::newPaths($this->channels, $send->to));
                foreach ($this->channels as $channel) {
                    $replaced = $before->channel($channel)?->sendTo($send->to);
                    if ($replaced !== null) {
                        $paths[] = "sends/{$replaced->id}";
                    }
                }
            }
        }

        return array_values(array_unique($paths));
    }
}
