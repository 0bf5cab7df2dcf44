<?php

declare(strict_types=1);

namespace Hafen\Session;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Source\BusSource;

/** A new session: a main and nothing that feeds it yet. */
final class BlankSession
{
    public static function named(string $name, int $sampleRate = 48000): Session
    {
        return new Session($name, $sampleRate, 120.0, -3.0, 0, [
            new Channel('main', ChannelKind::Main, 'Main', Width::Stereo, new BusSource, output: 'hw:1-2'),
        ]);
    }
}
