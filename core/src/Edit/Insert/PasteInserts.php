<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\Refusals\TooManyMacros;
use Hafen\Edit\Refusals\TooManySounds;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Macro\RowControls;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundSwitch;

/**
 * Puts inserts that come from outside the session, such as a stored split, into a row or branch, under new ids; their macros and sound
 * switches become ones of the channel.
 */
final readonly class PasteInserts implements Edit
{
    /** @param  list<Insert>  $inserts */
    public function __construct(public array $inserts, public InsertPosition $position, public string $name = '', public RowControls $controls = new RowControls)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->inserts === []) {
            throw NothingSelected::atAll();
        }

        $ids = FreshIds::of($session);
        $pasted = Rows::put($session, $this->position, array_map($ids->copyOf(...), $this->inserts));
        $channel = Channels::find($pasted, $this->position->channel);
        $controls = $this->controls->copied($ids->copies(), $ids);
        $macros = [...$channel->macros, ...$controls->macros];
        $sounds = [...$channel->sounds, ...$controls->sounds];
        if (count($macros) > Macro::MOST) {
            throw TooManyMacros::on($channel->name, Macro::MOST);
        }
        if (count($sounds) > SoundSwitch::MOST) {
            throw TooManySounds::switchesOn($channel->name, SoundSwitch::MOST);
        }

        return $controls == new RowControls ? $pasted : $pasted->withChannel($channel->withMacros($macros)->withSounds($sounds));
    }

    public function label(Session $before): string
    {
        $what = $this->name === '' ? (count($this->inserts) === 1 ? 'Insert' : count($this->inserts).' inserts') : $this->name;

        return "{$what} on ".Channels::named($before, [$this->position->channel]);
    }

    public function touches(Session $before): array
    {
        $channel = "channels/{$this->position->channel}";

        return [...$this->position->touches(), ...($this->controls == new RowControls ? [] : ["{$channel}/macros", "{$channel}/sounds"])];
    }
}
