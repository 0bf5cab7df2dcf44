<?php

declare(strict_types=1);

namespace Hafen\Note;

/** Something that happens at a sample: of the session in a schedule, of the block in what an instrument gets. */
final readonly class NoteEvent
{
    /**
     * @param  int  $key  of a note; number of a controller, see {@see NoteControl}
     * @param  float  $value  velocity from 0 to 1; of a controller as it is; where all end at a jump, for how many samples keys have been held
     *                        there without a gap
     */
    public function __construct(public int $at, public NoteEventKind $kind, public int $key = 0, public float $value = 0.0)
    {
    }

    /** @param  int  $heldFor  samples for which keys have been held without a gap where playing goes on */
    public static function allOff(int $at = 0, int $heldFor = 0): self
    {
        return new self($at, NoteEventKind::AllOff, 0, (float) $heldFor);
    }

    public function at(int $at): self
    {
        return new self($at, $this->kind, $this->key, $this->value);
    }

    public function withKey(int $key): self
    {
        return new self($this->at, $this->kind, $key, $this->value);
    }

    public function withValue(float $value): self
    {
        return new self($this->at, $this->kind, $this->key, $value);
    }

    public function isOn(): bool
    {
        return $this->kind === NoteEventKind::On;
    }

    public function isOff(): bool
    {
        return $this->kind === NoteEventKind::Off;
    }

    /**
     * Events in their order.
     *
     * @param  list<self>  $events
     * @return list<self>
     */
    public static function sorted(array $events): array
    {
        usort($events, static fn (self $one, self $other): int => [$one->at, $one->kind->value, $one->key] <=> [$other->at, $other->kind->value, $other->key]);

        return $events;
    }

    /**
     * Those of a part of a block, counted from its start.
     *
     * @param  list<self>  $events
     * @return list<self>
     */
    public static function within(array $events, int $offset, int $frames): array
    {
        $part = [];
        foreach ($events as $event) {
            if ($event->at >= $offset && $event->at < $offset + $frames) {
                $part[] = $offset === 0 ? $event : $event->at($event->at - $offset);
            }
        }

        return $part;
    }
}
