<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/** Where a channel's sound comes from. */
interface Source
{
    /** @return list<Clip> that it plays */
    public function clips(): array;

    /** The tap of another channel that it plays. */
    public function tapped(): ?TapSource;
}
