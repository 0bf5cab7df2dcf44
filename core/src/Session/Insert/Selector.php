<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Copies;

/**
 * One control that chooses between the branches of a split: each is open in its range ({@see Branch::$range}), those without one always.
 *
 * `rings`: a branch that is left gets no more sound, and what it holds rings out; otherwise it is silent at once.
 */
final readonly class Selector
{
    use Copies;

    /**
     * @param  float  $value  0 to 1
     * @param  ?SelectorNotes  $notes  that move it; null is none
     */
    public function __construct(public float $value = 0.0, public SelectorFade $fade = SelectorFade::EqualPower, public bool $rings = true, public ?SelectorNotes $notes = null)
    {
    }

    public function withValue(float $value): self
    {
        return $this->copy(value: $value);
    }

    public function withFade(SelectorFade $fade): self
    {
        return $this->copy(fade: $fade);
    }

    public function withNotes(?SelectorNotes $notes): self
    {
        return $this->copy(notes: $notes);
    }

    public function withRings(bool $rings): self
    {
        return $this->copy(rings: $rings);
    }
}
