<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

/** The three points of a path where sound is taken: after the trim, before the fader, after the fader and what follows it. */
enum TapPoint: string
{
    case Source = 'source';
    case PreFader = 'pre-fader';
    case PostFader = 'post-fader';

    /** Whether fader, mute and solo of the channel act on what is taken here. */
    public function followsFader(): bool
    {
        return $this === self::PostFader;
    }

    /** "before the fader", as in a sentence. */
    public function words(): string
    {
        return match ($this) {
            self::Source => 'from the source',
            self::PreFader => 'before the fader',
            self::PostFader => 'after the fader',
        };
    }
}
