<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

enum ChannelKind: string
{
    case Track = 'track';
    case Note = 'note';
    case Group = 'group';
    case Return = 'return';
    case Cue = 'cue';
    case Main = 'main';

    /** Whether it sums what other channels put out and send. */
    public function isBus(): bool
    {
        return $this !== self::Track && $this !== self::Note;
    }

    /** Whether another channel's output can go there. */
    public function takesOutputs(): bool
    {
        return $this === self::Group || $this === self::Return || $this === self::Main;
    }

    /** Whether another channel's sends can go there. */
    public function takesSends(): bool
    {
        return $this === self::Group || $this === self::Return || $this === self::Cue;
    }

    /** Whether its output goes to the interface, not to another channel. */
    public function endsAtInterface(): bool
    {
        return $this === self::Main || $this === self::Cue;
    }

    /** Where a send to it is taken at first: effects follow the fader, cues do not. */
    public function usualTap(): TapPoint
    {
        return $this === self::Cue ? TapPoint::PreFader : TapPoint::PostFader;
    }

    /** dB a send to it starts with: a cue gets the channel as loud as it is, an effect well below it. */
    public function usualGain(): float
    {
        return $this === self::Cue ? 0.0 : -12.0;
    }

    /** Whether it can send to others. */
    public function canSend(): bool
    {
        return $this !== self::Cue;
    }

    /** Whether it can go into a group. */
    public function canBeGrouped(): bool
    {
        return ! $this->endsAtInterface();
    }

    /** Whether it can take its sound from another channel's tap. */
    public function takesSource(): bool
    {
        return $this === self::Track;
    }

    /** Whether a file can play in place of everything up to its fader. */
    public function canBeFrozen(): bool
    {
        return ! $this->endsAtInterface();
    }

    /** "track", as in a sentence. */
    public function word(): string
    {
        return $this->value;
    }
}
