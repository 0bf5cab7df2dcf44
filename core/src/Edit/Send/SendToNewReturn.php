<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Edit\Channel\NewChannels;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\RoutingRules;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\BusSource;

/** A new return that carries an effect, all wet and solo-safe, and a send after the fader to it from each of some channels. */
final readonly class SendToNewReturn implements Edit
{
    /**
     * @param  list<string>  $channels
     * @param  array<string, float|string|bool>  $parameters  what differs from the defaults
     * @param  ?string  $name  null is the processor's
     * @param  ?array{?float}  $gain  dB, null in it is silence; null instead of it is what is usual
     */
    public function __construct(
        public array $channels,
        public ProcessorSpec $processor,
        public array $parameters = [],
        public ?string $name = null,
        public ?array $gain = null,
    ) {
    }

    public function apply(Session $session): Session
    {
        if ($this->channels === []) {
            throw NothingSelected::atAll();
        }
        $ids = FreshIds::of($session);
        $name = NewChannels::name($session, $this->name ?? $this->processor->name);
        $return = new Channel(
            $session->freeChannelId($name),
            ChannelKind::Return,
            $name,
            Width::Stereo,
            new BusSource,
            inserts: [new ProcessorInsert($ids->insert(), $this->processor->id, true, 1.0, $this->parameters)],
            soloSafe: true,
            output: $session->main()->id,
        );
        $session = NewChannels::put($session, $return);
        foreach ($this->channels as $id) {
            $channel = Channels::find($session, $id);
            RoutingRules::canSend($channel, $return);
            $session = $session->withChannel($channel->withSend(new Send($ids->send(), $return->id, $this->gain === null ? ChannelKind::Return->usualGain() : $this->gain[0])));
        }

        return RoutingRules::withoutLoop($session);
    }

    public function label(Session $before): string
    {
        return Channels::named($before, $this->channels).' to a new return with '.$this->processor->name;
    }

    public function touches(Session $before): array
    {
        $id = $before->freeChannelId(NewChannels::name($before, $this->name ?? $this->processor->name));

        return ["channels/{$id}", 'order', ...Channels::paths($this->channels, "sends/{$id}")];
    }
}
