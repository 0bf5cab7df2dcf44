<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

/** What another process puts into the shared memory: what passes at a place of a channel, or a sum. */
final readonly class Output
{
    /** @param  string  $of  a stage of the channel; of a sum its banks */
    public function __construct(public OutputKind $kind, public string $channel, public string $of)
    {
    }

    public function id(): string
    {
        return "{$this->kind->value}:{$this->channel}:{$this->of}";
    }
}
