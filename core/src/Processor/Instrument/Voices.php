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
 *
 * The pitch wheel goes two semitones each way, the modulation wheel adds vibrato, volume and expression make all of it softer: by
 * 40 log10(v / 127) dB each. Source: MIDI Manufacturers Association, General MIDI Level 2 (from memory).
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

    /** Hertz of the vibrato, semitones it goes each way, and samples after which its pitch moves on. */
    private const VIBRATO = 5.5;

    private const DEEPEST = 0.5;

    private const STEP = 32;

    /** Seconds in which volume and expression reach 63 % of their way. */
    private const SMOOTHED = 0.005;

    /** 0 to 1. */
    private float $modulation = 0.0;

    /** @var array<int, float> gains of volume and expression by number, where they were moved */
    private array $gains = [];

    /** The product of those on its way. */
    private float $gain = 1.0;

    /** Sample of the session. */
    private int $clock = 0;

    /** @param  Closure(int, float, int): ?Voice  $make  of a key, a velocity from 0 to 1 and a sample of the session; null where the instrument has no sound for it */
    public function __construct(private readonly Closure $make, private int $most, private readonly int $sampleRate)
    {
    }

    /** Seeks to a sample of the session: vibrato and noise are where they would be, wherever playing begins. */
    public function at(int $position): void
    {
        $this->clock = $position;
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
        $this->rest();
        $this->gain = 1.0;
        $this->clock = 0;
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
        for ($at = $from; $at < $to; $at = $end) {
            $past = ($this->clock % self::STEP + self::STEP) % self::STEP;
            $end = $this->modulation > 0.0 ? min($to, $at + self::STEP - $past) : $to;
            $vibrato = $this->modulation > 0.0 ? self::DEEPEST * $this->modulation * sin(2.0 * M_PI * self::VIBRATO * ($this->clock - $past) / $this->sampleRate) : 0.0;
            $sound = $this->voiced($sound, $at, $end, $this->bend + $vibrato);
            $this->clock += $end - $at;
        }

        return $this->softened($sound, $from, $to);
    }

    /**
     * @param  list<float>  $sound
     * @return list<float>
     */
    private function softened(array $sound, int $from, int $to): array
    {
        $target = (float) array_product($this->gains);
        $gain = $this->gain;
        if ($gain === 1.0 && $target === 1.0) {
            return $sound;
        }
        $step = 1.0 - exp(-1.0 / (self::SMOOTHED * $this->sampleRate));
        for ($i = $from; $i < $to; ++$i) {
            $gain = abs($target - $gain) < 1e-9 ? $target : $gain + $step * ($target - $gain);
            $sound[$i] *= $gain;
        }
        $this->gain = $gain;

        return $sound;
    }

    /**
     * @param  list<float>  $sound
     * @param  float  $bend  semitones
     * @return list<float>
     */
    private function voiced(array $sound, int $from, int $to, float $bend): array
    {
        foreach ($this->held as [, $voice]) {
            $sound = $voice->add($sound, $from, $to, $bend);
        }
        foreach ($this->choked as $voice) {
            $sound = $voice->add($sound, $from, $to, $bend);
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
        $voice = ($this->make)($key, $velocity, $this->clock);
        if ($voice === null) {
            return;
        }
        if ($this->isSilent()) {
            // While nothing sounds nothing is on its way.
            $this->gain = (float) array_product($this->gains);
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
        } elseif ($controller === NoteControl::MODULATION) {
            $this->modulation = $value / 127.0;
        } elseif ($controller === NoteControl::VOLUME || $controller === NoteControl::EXPRESSION) {
            $this->gains[$controller] = ($value / 127.0) ** 2;
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
        $this->rest();
    }

    /** Controllers go where they rest. */
    private function rest(): void
    {
        $this->pedalled = $this->gains = [];
        $this->isPedalDown = false;
        $this->bend = $this->modulation = 0.0;
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
