<?php

declare(strict_types=1);

namespace Hafen\Processor\Pitch;

use Hafen\Audio\Block;
use Hafen\Dsp\Pitch\PitchSynchronous;
use Hafen\Dsp\Pitch\PitchTracker;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\FollowsNotes;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;
use Hafen\Processor\Settles;

/**
 * Draws a single voice to the notes of a scale, as fast and as far as set. While keys are held on the note channel it follows it draws to
 * those instead, in any octave.
 *
 * Sources: E. Moulines, F. Charpentier, Speech Communication 1990 (see {@see PitchSynchronous}) for moving the pitch; P. McLeod, G. Wyvill,
 * ICMC 2005 (see {@see PitchTracker}) for finding it; twelve equal steps from A4. The response is the time to reach 63 % of the way.
 */
final class PitchCorrection implements FollowsNotes, Processor, Settles
{
    use ShiftsVoice {
        reset as private resetVoice;
    }

    private const NOTES = ['c' => 'C', 'c-sharp' => 'C sharp', 'd' => 'D', 'e-flat' => 'E flat', 'e' => 'E', 'f' => 'F', 'f-sharp' => 'F sharp', 'g' => 'G', 'a-flat' => 'A flat', 'a' => 'A', 'b-flat' => 'B flat', 'b' => 'B'];

    private const SCALES = [
        'chromatic' => [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11],
        'major' => [0, 2, 4, 5, 7, 9, 11],
        'minor' => [0, 2, 3, 5, 7, 8, 10],
        'harmonic' => [0, 2, 3, 5, 7, 8, 11],
        'pentatonic' => [0, 2, 4, 7, 9],
        'blues' => [0, 3, 5, 6, 7, 10],
    ];

    /** @var list<int> */
    private array $steps = [];

    private int $root = 0;

    private float $reference = 440.0;

    private float $amount = 1.0;

    private float $response = 0.0;

    /** @var list<NoteEvent> that are not due yet, at samples counted from the last reset */
    private array $events = [];

    /** @var array<int, true> keys that are held */
    private array $held = [];

    /** Samples heard since the last reset. */
    private int $count = 0;

    /** Samples heard at the next look at the pitch. */
    private int $look = 0;

    /** Semitones of correction now. */
    private float $correction = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'pitch-correction',
            'Pitch correction',
            'Tune', 'Pitch',
            'Draws a single voice to the notes of a scale, or to those that are played.',
            [
                ParameterSpec::choice('key', 'Key', self::NOTES, 'c'),
                ParameterSpec::choice('scale', 'Scale', [
                    'chromatic' => 'All twelve notes', 'major' => 'Major', 'minor' => 'Minor', 'harmonic' => 'Harmonic minor', 'pentatonic' => 'Pentatonic', 'blues' => 'Blues',
                ], 'chromatic'),
                ParameterSpec::number('response', 'Response', 'ms', 0.0, 500.0, 40.0, step: 1.0),
                ParameterSpec::number('amount', 'Amount', '%', 0.0, 100.0, 100.0, step: 1.0),
                ParameterSpec::number('reference', 'A4', 'Hz', 430.0, 450.0, 440.0),
            ],
            synonyms: ['tune', 'voice', 'intonation', 'key', 'scale', 'vocal'],
            followsNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Pitch '.self::NOTES[$values->choice('key')].' '.$values->choice('scale');
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        $scale = ['chromatic' => 'all', 'major' => 'maj', 'minor' => 'min', 'harmonic' => 'harm', 'pentatonic' => 'pent', 'blues' => 'blues'];
        $name = $values->choice('scale');

        return new ChipLabel('Tune', $name === 'chromatic' ? 'chromatic' : str_replace([' sharp', ' flat'], ["\u{266F}", "\u{266D}"], self::NOTES[$values->choice('key')]).' '.($scale[$name] ?? $name));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $points = [];
        $root = (int) array_search($values->choice('key'), array_keys(self::NOTES), true);
        for ($note = 57.0; $note <= 81.001; $note += 0.05) {
            $points[] = [round($note - 69.0, 2), round($note - 69.0 + $values->number('amount') / 100.0 * (self::target($note, $root, self::SCALES[$values->choice('scale')]) - $note), 3)];
        }

        return Picture::pitch($points, 12.0, 'Pitch in, pitch out, from A4');
    }

    public function set(ParameterValues $values): void
    {
        $this->root = (int) array_search($values->choice('key'), array_keys(self::NOTES), true);
        $this->steps = self::SCALES[$values->choice('scale')];
        $this->reference = $values->number('reference');
        $this->amount = $values->number('amount') / 100.0;
        $this->response = $values->number('response') === 0.0 ? 0.0 : exp(-1000.0 * PitchSynchronous::hop($this->setting->sampleRate) / ($values->number('response') * $this->setting->sampleRate));
    }

    public function follow(array $events): void
    {
        foreach ($events as $event) {
            $this->events[] = $event->at($this->count + $event->at);
        }
    }

    public function process(Block $block): void
    {
        $this->shift($block, $this->ratio(...), 1.0, $this->amount !== 0.0);
        $this->count += $block->frames();
    }

    public function reset(): void
    {
        $this->resetVoice();
        $this->correction = 0.0;
        $this->events = $this->held = [];
        $this->count = $this->look = 0;
    }

    private function ratio(?float $period): float
    {
        $this->look += PitchSynchronous::hop($this->setting->sampleRate);
        $this->hold($this->look - PitchSynchronous::lookBack($this->setting->sampleRate));
        if ($period === null) {
            $this->correction *= $this->response;

            return 1.0;
        }
        $note = 69.0 + 12.0 * log($this->setting->sampleRate / $period / $this->reference, 2.0);
        $wanted = ($this->held === [] ? self::target($note, $this->root, $this->steps) : self::target($note, 0, array_map(static fn (int $key): int => $key % 12, array_keys($this->held)))) - $note;
        $this->correction = $wanted + $this->response * ($this->correction - $wanted);

        return 2.0 ** ($this->amount * $this->correction / 12.0);
    }

    /** Takes in the keys that go down and up until a sample: sound is moved by those that were held while it was sung. */
    private function hold(int $until): void
    {
        while ($this->events !== [] && $this->events[0]->at <= $until) {
            $event = array_shift($this->events);
            if ($event->isOn()) {
                $this->held[$event->key] = true;
            } elseif ($event->isOff()) {
                unset($this->held[$event->key]);
            } elseif ($event->kind === NoteEventKind::AllOff) {
                $this->held = [];
            }
        }
    }

    /**
     * The nearest note of the scale; 69 is A4.
     *
     * @param  list<int>  $steps  semitones above the root
     */
    private static function target(float $note, int $root, array $steps): float
    {
        $best = INF;
        $octave = 12.0 * floor(($note - $root) / 12.0) + $root;
        foreach ([-12.0, 0.0, 12.0] as $shift) {
            foreach ($steps as $step) {
                $candidate = $octave + $shift + $step;
                if (abs($candidate - $note) < abs($best - $note)) {
                    $best = $candidate;
                }
            }
        }

        return $best;
    }
}
