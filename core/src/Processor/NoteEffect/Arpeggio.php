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

/**
 * Plays the keys that are held one after another, on the steps of the session's bars: the step a key is pressed on, or the next.
 *
 * Every other step comes later by the swing, and each note sounds for its gate of the way to the next step.
 */
final class Arpeggio implements ChangesNotes, Processor
{
    use WorksOnNotes;

    private const ORDERS = ['up' => 'Up', 'down' => 'Down', 'up-down' => 'Up and down', 'played' => 'As played', 'chord' => 'Chord'];

    private string $order = 'up';

    private float $step = 1.0;

    private float $gate = 0.5;

    private float $swing = 0.0;

    private int $octaves = 1;

    /** @var array<int, float> velocity by key, in the order in which they were pressed */
    private array $held = [];

    /** Steps played since the first key was pressed, those before a jump into held keys included. */
    private int $count = 0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'arpeggio',
            'Arpeggio',
            'Arp', 'Notes',
            'Plays held keys one after another, in time.',
            [
                ParameterSpec::choice('order', 'Order', self::ORDERS, 'up'),
                NoteValue::parameter('1/16'),
                ParameterSpec::number('gate', 'Gate', '%', 5.0, 100.0, 60.0, step: 1.0),
                ParameterSpec::number('octaves', 'Octaves', '', 1.0, 4.0, 1.0, step: 1.0),
                ParameterSpec::number('swing', 'Swing', '%', 0.0, 60.0, 0.0, step: 1.0),
            ],
            synonyms: ['arp', 'arpeggiator', 'broken chord', 'pattern', 'notes', 'midi'],
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Arpeggio '.strtolower(self::ORDERS[$values->choice('order')] ?? '').' '.$values->choice('note');
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Arp', $values->choice('note'));
    }

    public function __construct(private readonly Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $this->order = $values->choice('order');
        $this->step = max(16.0, NoteValue::milliseconds($values->choice('note'), $this->setting->tempo) / 1000.0 * $this->setting->sampleRate);
        $this->gate = $values->number('gate') / 100.0;
        $this->swing = $values->number('swing') / 100.0;
        $this->octaves = (int) round($values->number('octaves'));
    }

    public function reset(): void
    {
        $this->held = [];
        $this->planned = [];
        $this->count = 0;
    }

    public function isSettled(): bool
    {
        return $this->held === [] && $this->planned === [];
    }

    public function changed(array $events, int $frames): array
    {
        $start = $this->position;
        $end = $start + $frames;
        $changed = [];
        $step = $this->firstStep($start);
        foreach ([...$events, null] as $event) {
            // A key that is pressed on a step is played on it.
            $until = $event === null ? $end : $start + $event->at;
            for (; $this->time($step) < $until; ++$step) {
                array_push($changed, ...$this->due($this->time($step) + 1, $start), ...$this->played($step, $start));
            }
            if ($event !== null) {
                array_push($changed, ...$this->taken($event, $start + $event->at));
            }
        }
        array_push($changed, ...$this->due($end, $start));
        $this->position = $end;

        return NoteEvent::sorted($changed);
    }

    /**
     * @param  int  $position  of the event in the session
     * @return list<NoteEvent> what passes of an event
     */
    private function taken(NoteEvent $event, int $position): array
    {
        if (self::endsAll($event)) {
            $this->reset();
            // It goes on where it would be if playing had not begun here.
            $this->count = $this->firstStep($position) - $this->firstStep($position - (int) $event->value);
        } elseif ($event->isOn()) {
            unset($this->held[$event->key]);
            $this->held[$event->key] = $event->value;
        } elseif ($event->isOff()) {
            unset($this->held[$event->key]);
            $this->count = $this->held === [] ? 0 : $this->count;
        }

        return $event->isOn() || $event->isOff() ? [] : [$event];
    }

    /** @return list<NoteEvent> the notes of a step */
    private function played(int $step, int $start): array
    {
        if ($this->held === []) {
            return [];
        }
        $at = $this->time($step);
        $off = $at + max(1, (int) round($this->gate * ($this->time($step + 1) - $at)));
        $notes = [];
        foreach ($this->keys($this->count++) as $key => $velocity) {
            $notes[] = new NoteEvent($at - $start, NoteEventKind::On, $key, $velocity);
            $this->plan(new NoteEvent($off, NoteEventKind::Off, $key));
        }

        return $notes;
    }

    /** @return array<int, float> velocity by key, of a step counted from the first */
    private function keys(int $count): array
    {
        $row = [];
        $keys = $this->held;
        if ($this->order !== 'played') {
            ksort($keys);
        }
        if ($this->order === 'chord') {
            $up = 12 * ($count % $this->octaves);
            $chord = [];
            foreach ($keys as $key => $velocity) {
                $chord += $key + $up <= 127 ? [$key + $up => $velocity] : [];
            }

            return $chord;
        }
        for ($octave = 0; $octave < $this->octaves; ++$octave) {
            foreach ($keys as $key => $velocity) {
                if ($key + 12 * $octave <= 127) {
                    $row[] = [$key + 12 * $octave, $velocity];
                }
            }
        }
        $row = match ($this->order) {
            'down' => array_reverse($row),
            'up-down' => [...$row, ...array_reverse(array_slice($row, 1, -1))],
            default => $row,
        };
        [$key, $velocity] = $row[$count % count($row)];

        return [$key => $velocity];
    }

    /** The sample of the session a step falls on. */
    private function time(int $step): int
    {
        return (int) round(($step + ($step % 2 === 0 ? 0.0 : $this->swing)) * $this->step);
    }

    /** The first step at a sample or after it. */
    private function firstStep(int $position): int
    {
        $step = max(0, (int) floor($position / $this->step) - 1);
        while ($this->time($step) < $position) {
            ++$step;
        }

        return $step;
    }
}
