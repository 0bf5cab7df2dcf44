<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\Refusals\SendsAlready;
use Hafen\Edit\RoutingRules;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\FreshIds;
use Hafen\Session\Session;

/** Sends from one channel or several to a return, a cue or a group. */
final readonly class AddSend implements Edit
{
    /**
     * @param  list<string>  $channels
     * @param  ?array{?float}  $gain  dB, null in it is silence; null instead of it is what is usual there
     * @param  ?TapPoint  $tap  null is what is usual there: after the fader, for cues before it
     */
    public function __construct(
        public array $channels,
        public string $to,
        public ?array $gain = null,
        public ?TapPoint $tap = null,
        public float $pan = 0.0,
    ) {
    }

    public function apply(Session $session): Session
    {
        $target = Channels::find($session, $this->to);
        if ($this->channels === []) {
            throw NothingSelected::atAll();
        }
        $ids = FreshIds::of($session);
        foreach ($this->channels as $id) {
            $channel = Channels::find($session, $id);
            RoutingRules::canSend($channel, $target);
            if ($channel->sendTo($target->id) !== null) {
                throw SendsAlready::between($channel->name, $target->name);
            }
            $send = new Send($ids->send(), $target->id, $this->gain === null ? $target->kind->usualGain() : $this->gain[0], $this->tap ?? $target->kind->usualTap(), true, $this->pan);
            $session = $session->withChannel($channel->withSend($send));
        }

        return RoutingRules::withoutLoop($session);
    }

    public function label(Session $before): string
    {
        return 'Send of '.Channels::named($before, $this->channels).' to '.Channels::named($before, [$this->to]);
    }

    public function touches(Session $before): array
    {
        return SendEdits::newPaths($this->channels, $this->to);
    }
}
