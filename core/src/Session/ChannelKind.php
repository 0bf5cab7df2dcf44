<?php

declare(strict_types=1);

namespace Hafen\Session;

enum ChannelKind: string
{
    case Track = 'track';
    case Note = 'note';
    case Group = 'group';
    case Return = 'return';
    case Cue = 'cue';
    case Main = 'main';

    public function isSupported(): bool
    {
        return $this === self::Track || $this === self::Main;
    }
}
