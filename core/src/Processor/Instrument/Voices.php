<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

use Closure;
use Hafen\Note\NoteControl;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;

/**
 * Gives the notes of an instrument to voices, and ends them: at their ends, when the pedal is lifted, or when a new note needs the place of
 * the oldest one, a released one first.
 */
final class Voices
{
    /** Semitones the pitch wheel goes each way. */
    private const BEND = 2.0;

    /** @var list<array{int, Voice}> key and voice, the oldest first */
    private array $held = [];

    /** @var list<Voice> that fall silent, beyond those that count */
    private array $choked = [];

    /** @var array<int, true> keys that were let go while the pedal was down */
    private array $pedalled = [];

    private bool $isPedalDown = false;

    private float $bend = 0.0;

    /** @param  Closure(int, float): ?Voice  $make  of a key and a velocity from 0 to 1; null where the instrument has no sound for it */
    public function __construct(private readonly Closure $make, private int $most)
    {
    }

    public function limit(int $most): void
    {
        $this->most = $most;
        while (count($this->held) > $most) {
            $this->steal();
        }
    }

    public function isSilent(): bool
    {
        return $this->held === [] && $this->choked === [];
    }

    /** How many sound. */
    public function count(): int
    {
        return count($this->held) + count($this->choked);
    }

    public function reset(): void
    {
        $this->held = $this->choked = [];
        $this->pedalled = [];
        $this->isPedalDown = false;
        $this->bend = 0.0;
    }

    /**
     * The sound of a block.
     *
     * @param  list<NoteEvent>  $events  counted from its start, in their order
     * @return list<float>
     */
    public function play(array $events, int $frames): array
    {
        $sound = array_fill(0, $frames, 0.0);
        $at = 0;
        foreach ($events as $event) {
            if ($event->at > $at) {
                $sound = $this->sounding($sound, $at, $event->at);
                $at = $event->at;
            }
            $this->take($event);
        }

        return $at < $frames ? $this->sounding($sound, $at, $frames) : $sound;
    }

    /**
     * @param  list<float>  $sound
     * @return list<float>
     */
    private function sounding(array $sound, int $from, int $to): array
    {
        foreach ($this->held as [, $voice]) {
            $sound = $voice->add($sound, $from, $to, $this->bend);
        }
        foreach ($this->choked as $voice) {
            $sound = $voice->add($sound, $from, $to, $this->bend);
        }
        $this->held = array_values(array_filter($this->held, static fn (array $one): bool => ! $one[1]->isOver()));
        $this->choked = array_values(array_filter($this->choked, static fn (Voice $voice): bool => ! $voice->isOver()));

        return $sound;
    }

    private function take(NoteEvent $event): void
    {
        match ($event->kind) {
            NoteEventKind::AllOff => $this->allOff(),
            NoteEventKind::Off => $this->off($event->key),
            NoteEventKind::On => $this->on($event->key, $event->value),
            NoteEventKind::Control => $this->control($event->key, $event->value),
        };
    }

    private function on(int $key, float $velocity): void
    {
        unset($this->pedalled[$key]);
        $voice = ($this->make)($key, $velocity);
        if ($voice === null) {
            return;
        }
        if (count($this->held) >= $this->most) {
            $this->steal();
        }
        $this->held[] = [$key, $voice];
    }

    private function off(int $key): void
    {
        if ($this->isPedalDown) {
            $this->pedalled[$key] = true;

            return;
        }
        foreach ($this->held as [$held, $voice]) {
            if ($held === $key) {
                $voice->release();
            }
        }
    }

    private function control(int $controller, float $value): void
    {
        if ($controller === NoteControl::BEND) {
            $this->bend = self::BEND * $value / 8192.0;
        } elseif ($controller === NoteControl::SUSTAIN) {
            $this->isPedalDown = $value >= 64.0;
            foreach ($this->isPedalDown ? [] : array_keys($this->pedalled) as $key) {
                $this->off($key);
            }
            $this->pedalled = $this->isPedalDown ? $this->pedalled : [];
        }
    }

    private function allOff(): void
    {
        foreach ($this->held as [, $voice]) {
            $voice->choke();
            $this->choked[] = $voice;
        }
        $this->held = [];
        $this->pedalled = [];
        $this->isPedalDown = false;
        $this->bend = 0.0;
    }

    private function steal(): void
    {
        $index = 0;
        foreach ($this->held as $i => [, $voice]) {
            if ($voice->isReleased()) {
                $index = $i;
                break;
            }
        }
        $voice = $this->held[$index][1];
        $voice->choke();
        $this->choked[] = $voice;
        array_splice($this->held, $index, 1);
    }
}
