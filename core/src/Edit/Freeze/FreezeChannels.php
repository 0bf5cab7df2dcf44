<?php

declare(strict_types=1);

namespace Hafen\Edit\Freeze;

use Hafen\Document\ContentHashes;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\CannotBeFrozen;
use Hafen\Edit\Refusals\FreezeOutOfDate;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/** Has channels play files in place of everything up to their fader; the files were made of what the channels are now. */
final readonly class FreezeChannels implements Edit
{
    /** @param  list<FreezeOf>  $freezes */
    public function __construct(public array $freezes, private ProcessorCatalogue $processors)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->freezes === []) {
            throw NothingSelected::atAll();
        }
        $hashes = ContentHashes::of($session, $this->processors);
        $frozen = $session;
        foreach ($this->freezes as $freeze) {
            $channel = Channels::find($frozen, $freeze->channel);
            if (! $channel->kind->canBeFrozen()) {
                throw CannotBeFrozen::kind($channel);
            }
            if (! in_array($freeze->frozen->hash, [$hashes->ofFreeze($channel->id, true), $hashes->ofFreeze($channel->id, false)], true)) {
                throw FreezeOutOfDate::of($channel->name);
            }
            $frozen = $frozen->withChannel($channel->withFrozen($freeze->frozen));
        }

        return $frozen;
    }

    public function label(Session $before): string
    {
        return 'Freeze '.Channels::named($before, $this->channels());
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels(), 'frozen');
    }

    /** @return list<string> */
    private function channels(): array
    {
        return array_map(static fn (FreezeOf $freeze): string => $freeze->channel, $this->freezes);
    }
}
