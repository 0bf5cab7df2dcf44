<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\RoutingRules;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Session;

/** Sends the output of channels to a group, a return, the main or nowhere; that of the main and cues to an interface pair. */
final readonly class SetOutput implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public string $output)
    {
    }

    public function apply(Session $session): Session
    {
        return RoutingRules::withoutLoop(Channels::each($session, $this->channels, function (Channel $channel) use ($session): Channel {
            RoutingRules::canPutOut($session, $channel, $this->output);

            return $channel->withOutput($this->output);
        }));
    }

    public function label(Session $before): string
    {
        $where = match (true) {
            $this->output === 'none' => 'nowhere',
            InterfacePorts::isPair($this->output) => str_replace(['hw:', '-'], ['outputs ', '–'], $this->output),
            default => Channels::named($before, [$this->output]),
        };

        return 'Output of '.Channels::named($before, $this->channels)." to {$where}";
    }

    public function touches(Session $before): array
    {
        return [
            ...Channels::paths($this->channels, 'output'),
            ...array_map(fn (string $id): string => "channels/{$this->output}/feeds/{$id}", $this->channels),
        ];
    }
}
