<?php

declare(strict_types=1);

namespace Hafen\Audio;

use Hafen\Refusal;

/** PHP complained while samples were computed, so that none of them can be trusted. */
final class LoopFault extends Refusal
{
    public static function of(string $message, string $file, int $line): self
    {
        return new self('engine', sprintf(
            'PHP says "%s" (%s, line %d) while samples are computed. Nothing of this is kept; it is a fault in Hafen.',
            $message,
            basename($file),
            $line,
        ));
    }
}
