<?php

declare(strict_types=1);

namespace Hafen\Processor\NoteEffect;

use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Processor\ChangesNotes;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/** Plays each note a little later, and softer or harder, by chance: the same for the same seed, wherever playing begins. */
final class Humanise implements ChangesNotes, Processor
{
    use WorksOnNotes;

    private float $latest = 0.0;

    private float $spread = 0.0;

    private int $seed = 1;

    /** @var array<int, int> samples by which keys that are down came later */
    private array $delays = [];

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'humanise',
            'Humanise',
            'Human', 'Notes',
            'Moves notes a little in time and strength, by chance.',
            [
                ParameterSpec::number('time', 'Later by up to', 'ms', 0.0, 100.0, 12.0, step: 1.0),
                ParameterSpec::number('velocity', 'Velocity by up to', '%', 0.0, 100.0, 15.0, step: 1.0),
                ParameterSpec::number('seed', 'Seed', '', 1.0, 999.0, 1.0, step: 1.0),
            ],
            synonyms: ['random', 'groove', 'feel', 'timing', 'notes', 'midi'],
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Humanise '.self::chip($values)->figure;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Human', round($values->number('time')).' ms');
    }

    public function __construct(private readonly Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $this->latest = $values->number('time') / 1000.0 * $this->setting->sampleRate;
        $this->spread = $values->number('velocity') / 100.0;
        $this->seed = (int) round($values->number('seed'));
    }

    public function reset(): void
    {
        $this->planned = [];
        $this->delays = [];
    }

    public function isSettled(): bool
    {
        return $this->planned === [];
    }

    public function changed(array $events, int $frames): array
    {
        $start = $this->position;
        $passed = [];
        foreach ($events as $event) {
            if (self::endsAll($event)) {
                $this->reset();
                $passed[] = $event;
            } elseif ($event->isOn()) {
                $delay = $this->delays[$event->key] = (int) round($this->latest * $this->chance($start + $event->at, $event->key, 'time'));
                $velocity = $event->value + $this->spread * (2.0 * $this->chance($start + $event->at, $event->key, 'velocity') - 1.0);
                $this->plan(new NoteEvent($start + $event->at + $delay, NoteEventKind::On, $event->key, max(1.0 / 127.0, min(1.0, $velocity))));
            } elseif ($event->isOff()) {
                $this->plan(new NoteEvent($start + $event->at + ($this->delays[$event->key] ?? 0) + 1, NoteEventKind::Off, $event->key));
                unset($this->delays[$event->key]);
            } else {
                $passed[] = $event;
            }
        }
        $this->position += $frames;

        return NoteEvent::sorted([...$passed, ...$this->due($start + $frames, $start)]);
    }

    /** From 0 to 1, for a note at a sample of the session. */
    private function chance(int $at, int $key, string $of): float
    {
        return (float) (hexdec(substr(hash('xxh32', "{$this->seed}/{$at}/{$key}/{$of}"), 0, 8)) / 0xFFFFFFFF);
    }
}
