<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/** The input of the audio interface that a track takes, and when it is heard. */
final readonly class LiveInput
{
    /** @param  string  $port  "in:1", or a pair "in:1-2" */
    public function __construct(public string $port, public Monitor $monitor = Monitor::Armed)
    {
    }
}
