<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Engine\Parallel\Message\SectionRefusal;
use Hafen\Refusal;

/** Another process of the engine refused what was asked for, and said why. */
final class SectionRefused extends Refusal
{
    public static function of(SectionRefusal $refusal): self
    {
        return new self($refusal->location, $refusal->message);
    }
}
