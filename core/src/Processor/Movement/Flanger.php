<?php

declare(strict_types=1);

namespace Hafen\Processor\Movement;

use Hafen\Audio\Block;
use Hafen\Dsp\Delay\WaveringTap;
use Hafen\Dsp\Lfo;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoteValue;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * A copy so close behind that the two comb each other, with the comb moving.
 *
 * Source: a moving delay with feedback added to the sound (J. O. Smith, "Physical Audio Signal Processing", flanging, from memory); the
 * first notch lies at 1/(2 t). Read by Hermite's cubic, see {@see WaveringTap}.
 */
final class Flanger implements Positioned, Processor
{
    use MovingNotches;

    private const ROOM_MILLISECONDS = 21.0;

    private readonly int $room;

    private float $delay = 0.0;

    private float $depth = 0.0;

    private int $write = 0;

    /** @var list<float> ring of the left side */
    private array $left;

    /** @var list<float> */
    private array $right;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'flanger',
            'Flanger',
            'Flange', 'Movement',
            'A moving comb.',
            [
                ...NoteValue::rateParameters(0.25, 0.02, 8.0),
                ParameterSpec::number('delay', 'Delay', 'ms', 0.2, 10.0, 1.0, Scale::Logarithmic, 0.01),
                ParameterSpec::number('depth', 'Depth', 'ms', 0.0, 10.0, 3.0, step: 0.01),
                ...self::notchParameters(95.0, 50.0),
            ],
            widens: true,
            synonyms: ['comb', 'jet', 'modulation', 'sweep', 'lfo'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Flanger '.NoteValue::rateText($values);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::rate('Flange', $values);
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $delay = $values->number('delay') / 1000.0;

        return Picture::response(
            static fn (float $frequency): float => self::magnitude($values, 2.0 * M_PI * $frequency * $delay),
            $setting->sampleRate,
            24.0,
            title: 'Comb at the shortest delay',
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->lfo = new Lfo;
        $this->room = (int) ceil(self::ROOM_MILLISECONDS * $setting->sampleRate / 1000.0) + 8;
        $this->left = $this->right = array_fill(0, $this->room, 0.0);
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $this->lfo->rate(NoteValue::rate($values, $this->setting->tempo), $rate);
        $this->delay = max(3.0, $values->number('delay') * $rate / 1000.0);
        $this->depth = 0.5 * $values->number('depth') * $rate / 1000.0;
        $this->setNotches($values);
    }

    public function process(Block $block): void
    {
        $block->widen();
        $frames = $block->frames();
        [$phase] = $this->lfo->angle();
        $ring = $this->left;
        $this->left = [];
        [$block->left, $this->left] = $this->side($block->left, $ring, $phase);
        $ring = $this->right;
        $this->right = [];
        [$block->right, $this->right] = $this->side($block->right, $ring, $phase + $this->apart);
        $this->write = ($this->write + $frames) % $this->room;
        $this->lfo->advance($frames);
    }

    public function reset(): void
    {
        $this->lfo->reset();
        $this->write = 0;
        $this->left = $this->right = array_fill(0, $this->room, 0.0);
    }

    public function tail(): int
    {
        $turns = abs($this->feedback) < 0.01 ? 1.0 : 1.0 + log(0.001) / log(abs($this->feedback));

        return (int) ceil(($this->delay + 2.0 * $this->depth) * $turns);
    }

    /**
     * @param  list<float>  $samples
     * @param  list<float>  $ring
     * @return array{list<float>, list<float>} what comes out, the ring
     */
    private function side(array $samples, array $ring, float $phase): array
    {
        [, $turn, $since] = $this->lfo->angle();
        $room = $this->room;
        $write = $this->write;
        $depth = $this->depth;
        $middle = $this->delay + $depth;
        $feedback = $this->feedback;
        $wet = $this->amount;
        $dry = 1.0 - $wet;
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $delay = $middle + $depth * sin($phase + $turn * ($since + $i));
            $whole = (int) $delay;
            $part = $delay - $whole;
            $at = $write - $whole;
            if ($at < 3) {
                // So that the four samples lie one after the other, or wrap together.
                $at += $room;
            }
            $one = $at + 1;
            $a = $ring[$one >= $room ? $one - $room : $one];
            $b = $ring[$at >= $room ? $at - $room : $at];
            $one = $at - 1;
            $c = $ring[$one >= $room ? $one - $room : $one];
            $one = $at - 2;
            $d = $ring[$one >= $room ? $one - $room : $one];
            $copy = $b + 0.5 * $part * ($c - $a + $part * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $part * (3.0 * ($b - $c) + $d - $a)));
            $x = $samples[$i];
            $ring[$write] = $x + $feedback * $copy + 1e-280 - 1e-280;
            $samples[$i] = $dry * $x + $wet * $copy;
            ++$write;
            if ($write === $room) {
                $write = 0;
            }
        }

        return [$samples, $ring];
    }
}
