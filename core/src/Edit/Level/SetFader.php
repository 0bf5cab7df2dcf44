<?php

declare(strict_types=1);

namespace Hafen\Edit\Level;

use Hafen\Audio\Decibel;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\FaderIsAutomated;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Faders to one gain in dB; null is silence. */
final readonly class SetFader implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public ?float $gain)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, $this->set(...));
    }

    /** Where a fader is automated, its lane moves along as a whole, as far as it can. */
    private function set(Channel $channel): Channel
    {
        $lane = $channel->lane('fader');
        if ($lane === null) {
            return $channel->withFader($this->gain);
        }
        if ($this->gain === null) {
            throw FaderIsAutomated::of($channel->name);
        }

        if ($channel->fader === null) {
            return $channel->withFader($this->gain);
        }
        $by = $this->gain - $channel->fader;

        return MoveFaders::moved($channel, $by === 0.0 ? 0.0 : RelativeMove::of($by, [$channel->fader, ...$lane->values()], MoveFaders::LOWEST, MoveFaders::HIGHEST, "The automated fader of {$channel->name}"));
    }

    public function label(Session $before): string
    {
        return 'Fader of '.Channels::named($before, $this->channels).' '.Decibel::text($this->gain);
    }

    public function touches(Session $before): array
    {
        // A lane moves along.
        return [...Channels::paths($this->channels, 'fader'), ...Channels::paths($this->channels, 'automation/fader')];
    }
}
