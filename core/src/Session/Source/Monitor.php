<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/** When a live input is heard in place of its track's clips. */
enum Monitor: string
{
    case Off = 'off';
    case Armed = 'armed';
    case Always = 'always';

    public function hears(bool $isArmed): bool
    {
        return $this === self::Always || ($this === self::Armed && $isArmed);
    }
}
