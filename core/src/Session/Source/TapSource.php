<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

use Hafen\Session\Channel\TapPoint;

/** What another channel carries at one of its taps. */
final readonly class TapSource implements Source
{
    public function __construct(public string $channel, public TapPoint $tap)
    {
    }

    public function clips(): array
    {
        return [];
    }

    public function tapped(): self
    {
        return $this;
    }
}
