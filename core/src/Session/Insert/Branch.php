<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Copies;

/**
 * One way through a split: its own inserts, then its level. Gain in dB, null is silence; pan from -1 to +1. `range` is where the selector of
 * the split opens it; null is everywhere. `keys` and `velocities` are those of the notes it plays; null is all.
 */
final readonly class Branch
{
    use Copies;

    /** @param  list<Insert>  $inserts */
    public function __construct(
        public string $id,
        public string $name,
        public ?float $gain = 0.0,
        public float $pan = 0.0,
        public bool $mute = false,
        public bool $solo = false,
        public bool $invert = false,
        public array $inserts = [],
        public ?SelectorRange $range = null,
        public ?NoteZone $keys = null,
        public ?NoteZone $velocities = null,
    ) {
    }

    public function withId(string $id): self
    {
        return $this->copy(id: $id);
    }

    public function withName(string $name): self
    {
        return $this->copy(name: $name);
    }

    public function withGain(?float $gain): self
    {
        return $this->copy(gain: $gain);
    }

    public function withPan(float $pan): self
    {
        return $this->copy(pan: $pan);
    }

    public function withMute(bool $mute): self
    {
        return $this->copy(mute: $mute);
    }

    public function withSolo(bool $solo): self
    {
        return $this->copy(solo: $solo);
    }

    public function withInvert(bool $invert): self
    {
        return $this->copy(invert: $invert);
    }

    public function withRange(?SelectorRange $range): self
    {
        return $this->copy(range: $range);
    }

    public function withZones(?NoteZone $keys, ?NoteZone $velocities): self
    {
        return $this->copy(keys: $keys, velocities: $velocities);
    }

    /** @param  list<Insert>  $inserts */
    public function withInserts(array $inserts): self
    {
        return $this->copy(inserts: $inserts);
    }
}
