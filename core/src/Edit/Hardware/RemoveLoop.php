<?php

declare(strict_types=1);

namespace Hafen\Edit\Hardware;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\LoopIsUsed;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Session;

/** Removes a hardware loop no insert goes through. */
final readonly class RemoveLoop implements Edit
{
    public function __construct(public string $loop)
    {
    }

    public function apply(Session $session): Session
    {
        $loop = Loops::find($session, $this->loop);
        foreach ($session->channels as $channel) {
            if (in_array($loop->id, $channel->loops(), true)) {
                throw LoopIsUsed::on($loop->name, $channel->name);
            }
        }

        return $session->withLoops(array_values(array_filter($session->loops, static fn (HardwareLoop $other): bool => $other->id !== $loop->id)));
    }

    public function label(Session $before): string
    {
        return 'Remove loop '.($before->loop($this->loop)->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ['loops'];
    }
}
