<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Session\Channel\Send;
use Hafen\Session\Session;

/** Takes sends away. */
final readonly class RemoveSends implements Edit
{
    /** @param  list<string>  $sends */
    public function __construct(public array $sends)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->sends === []) {
            throw NothingSelected::atAll();
        }
        foreach ($this->sends as $id) {
            $channel = SendEdits::find($session, $id)->channel;
            $session = $session->withChannel($channel->withSends(array_values(array_filter(
                $channel->sends,
                static fn (Send $send): bool => $send->id !== $id,
            ))));
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return 'Remove '.lcfirst(SendEdits::named($before, $this->sends));
    }

    public function touches(Session $before): array
    {
        return array_map(static fn (string $id): string => "sends/{$id}", $this->sends);
    }
}
