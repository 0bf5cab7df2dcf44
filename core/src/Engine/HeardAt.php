<?php

declare(strict_types=1);

namespace Hafen\Engine;

/** Where somebody listens: at a tap, on both ears, or on the right ear with the main on the left one. */
final readonly class HeardAt
{
    /** @param  ?Tap  $main  on the left ear; null where the tap alone is heard */
    public function __construct(public Tap $tap, public ?Tap $main = null)
    {
    }

    /** @return list<Tap> */
    public function taps(): array
    {
        return $this->main === null ? [$this->tap] : [$this->tap, $this->main];
    }
}
