<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

use Hafen\Session\Copies;

/**
 * A part of a channel's sound that goes to a return, a cue or a group as well. `gain` in dB (null is silence), `pan` from
 * -1 (left) to +1 (right).
 */
final readonly class Send
{
    use Copies;

    public function __construct(
        public string $id,
        public string $to,
        public ?float $gain = 0.0,
        public TapPoint $tap = TapPoint::PostFader,
        public bool $on = true,
        public float $pan = 0.0,
    ) {
    }

    public function withId(string $id): self
    {
        return $this->copy(id: $id);
    }

    public function withGain(?float $gain): self
    {
        return $this->copy(gain: $gain);
    }

    public function withTap(TapPoint $tap): self
    {
        return $this->copy(tap: $tap);
    }

    public function withOn(bool $on): self
    {
        return $this->copy(on: $on);
    }

    public function withPan(float $pan): self
    {
        return $this->copy(pan: $pan);
    }
}
