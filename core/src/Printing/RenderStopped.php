<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Refusal;

/** Somebody stopped a render; its unfinished file is gone. */
final class RenderStopped extends Refusal
{
    public static function at(int $done, int $total): self
    {
        return new self('render', "Stopped after {$done} of {$total} samples.");
    }

    public static function beforeItBegan(): self
    {
        return new self('render', 'Stopped before it began.');
    }
}
