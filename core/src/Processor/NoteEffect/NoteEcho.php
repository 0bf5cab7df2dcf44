<?php

declare(strict_types=1);

namespace Hafen\Processor\NoteEffect;

use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Processor\ChangesNotes;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoteValue;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/** Repeats notes, each time softer, and moved by some semitones. */
final class NoteEcho implements ChangesNotes, Processor
{
    use WorksOnNotes;

    private int $repeats = 0;

    private int $distance = 1;

    private float $softer = 0.0;

    private int $interval = 0;

    /** @var array<int, list<array{int, int}>> of keys that are down: delay in samples and key of each repeat that is still to end */
    private array $repeating = [];

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'note-echo',
            'Echo of notes',
            'NEcho', 'Notes',
            'Repeats notes, each time softer.',
            [
                NoteValue::parameter('1/8'),
                ParameterSpec::number('repeats', 'Repeats', '', 1.0, 12.0, 3.0, step: 1.0),
                ParameterSpec::number('softer', 'Each at', '%', 10.0, 100.0, 70.0, step: 1.0),
                ParameterSpec::number('interval', 'Each moved by', 'st', -24.0, 24.0, 0.0, step: 1.0),
            ],
            synonyms: ['delay', 'repeat', 'canon', 'notes', 'midi'],
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Echo of notes '.$values->choice('note');
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('NEcho', $values->choice('note'));
    }

    public function __construct(private readonly Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $this->distance = max(1, (int) round(NoteValue::milliseconds($values->choice('note'), $this->setting->tempo) / 1000.0 * $this->setting->sampleRate));
        $this->repeats = (int) round($values->number('repeats'));
        $this->softer = $values->number('softer') / 100.0;
        $this->interval = (int) round($values->number('interval'));
    }

    public function reset(): void
    {
        $this->planned = [];
        $this->repeating = [];
    }

    public function isSettled(): bool
    {
        return $this->planned === [];
    }

    public function changed(array $events, int $frames): array
    {
        $start = $this->position;
        foreach ($events as $event) {
            if (self::endsAll($event)) {
                $this->reset();
            } elseif ($event->isOn()) {
                $this->repeating[$event->key] = [];
                for ($n = 1; $n <= $this->repeats; ++$n) {
                    $key = $event->key + $n * $this->interval;
                    if ($key >= 0 && $key <= 127) {
                        $this->repeating[$event->key][] = [$n * $this->distance, $key];
                        $this->plan(new NoteEvent($start + $event->at + $n * $this->distance, NoteEventKind::On, $key, max(1.0 / 127.0, $event->value * $this->softer ** $n)));
                    }
                }
            } elseif ($event->isOff()) {
                foreach ($this->repeating[$event->key] ?? [] as [$delay, $key]) {
                    $this->plan(new NoteEvent($start + $event->at + $delay, NoteEventKind::Off, $key));
                }
                unset($this->repeating[$event->key]);
            }
        }
        $this->position += $frames;

        return NoteEvent::sorted([...$events, ...$this->due($start + $frames, $start)]);
    }
}
