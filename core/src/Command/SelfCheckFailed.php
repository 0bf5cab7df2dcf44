<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Refusal;

/** This PHP computes other samples with its JIT than without. */
final class SelfCheckFailed extends Refusal
{
    /** @param  list<string>  $what  that came out differently */
    public static function differs(array $what): self
    {
        return new self('self-check', 'With the JIT other samples come out of: '.implode(', ', $what).'. Start PHP with -d opcache.jit=disable.');
    }

    public static function noJit(): self
    {
        return new self('self-check', 'The JIT is not on in this PHP, so there is nothing to compare. Start with PHP_INI_SCAN_DIR=:config/php.');
    }

    public static function didNotRun(string $said): self
    {
        return new self('self-check', "The check did not run to its end: {$said}");
    }
}
