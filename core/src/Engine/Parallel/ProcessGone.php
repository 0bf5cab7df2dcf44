<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Refusal;

/** Another process of the engine ended, does not answer, or cannot be started. */
final class ProcessGone extends Refusal
{
    public static function ended(string $what): self
    {
        return new self('engine', "A process of the engine {$what}, so that channels are missing. Nothing of this is kept; try again. Is there enough memory?");
    }

    public static function notStarted(string $php): self
    {
        return new self('engine', "No further process of the engine can be started with \"{$php}\". Try again, or let the engine run in one process.");
    }

    public static function noMemory(int $bytes): self
    {
        return new self('engine', "There are no {$bytes} bytes of shared memory for the processes of the engine. Let it run in one process.");
    }
}
