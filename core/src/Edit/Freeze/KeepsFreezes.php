<?php

declare(strict_types=1);

namespace Hafen\Edit\Freeze;

use Hafen\Document\ContentHashes;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\ChannelsAreFrozen;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/**
 * Any edit, refused where it would change what is frozen: a frozen channel's source, trim and inserts, what they listen to, and
 * what moves them. What others bring to a frozen bus can be changed; its freeze is stale then.
 */
final readonly class KeepsFreezes implements Edit
{
    public function __construct(public Edit $edit, private ProcessorCatalogue $processors)
    {
    }

    public function apply(Session $session): Session
    {
        $after = $this->edit->apply($session);
        $frozen = array_filter(
            $session->channels,
            static fn (Channel $channel): bool => $channel->frozen !== null && $after->channel($channel->id)?->frozen?->file === $channel->frozen->file,
        );
        if ($frozen === [] || $after === $session) {
            return $after;
        }
        $before = ContentHashes::of($session, $this->processors);
        $now = ContentHashes::of($after, $this->processors);
        $changed = array_filter($frozen, static fn (Channel $channel): bool => $before->locked($channel->id) !== $now->locked($channel->id));
        if ($changed !== []) {
            throw ChannelsAreFrozen::named(array_values($changed));
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
