<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

/** A place of a channel whose sound goes to the process that asked for it. */
final readonly class Output
{
    /** @param  bool  $isTap  whether somebody listens there; otherwise other channels take it there */
    public function __construct(public string $channel, public string $stage, public bool $isTap)
    {
    }
}
