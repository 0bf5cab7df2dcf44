<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;

/** A frozen channel whose file is gone, or is not the one that was frozen: the channel plays itself. */
final readonly class MissingFreeze implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            if ($channel->frozen !== null && $facts->audioFiles?->has($channel->frozen->file) === false) {
                $advice[] = new Advice(
                    'freeze-missing',
                    Severity::Advice,
                    $channel->id,
                    null,
                    "The freeze of {$channel->name} cannot be played: its file is gone or was altered. The channel plays itself, and costs what it costs.",
                    new Fix('Unfreeze', EditRequest::unfreeze([$channel->id])),
                );
            }
        }

        return $advice;
    }
}
