<?php

declare(strict_types=1);

namespace Hafen\Processor\Level;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Lfo;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\FollowsLfo;
use Hafen\Processor\NoLatency;
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
 * The level goes up and down; with the sides apart in phase, the sound goes from side to side.
 *
 * Source: amplitude modulation, practice: gain = 1 - depth (1 - wave)/2. The triangle is a sine's angle folded, the square a
 * sine bent by s/sqrt(s^2 + 0.02), steep but without a click.
 */
final class Tremolo implements Positioned, Processor
{
    use FollowsLfo;
    use NoLatency;

    private float $depth = 0.0;

    private float $apart = 0.0;

    private string $shape = 'sine';

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'tremolo',
            'Tremolo and auto-pan',
            'Trem', 'Level',
            'Moves the level up and down, or from side to side.',
            [
                ...NoteValue::rateParameters(4.0),
                ParameterSpec::number('depth', 'Depth', '%', 0.0, 100.0, 50.0, step: 1.0),
                ParameterSpec::choice('shape', 'Shape', ['sine' => 'Sine', 'triangle' => 'Triangle', 'square' => 'Square'], 'sine'),
                ParameterSpec::number('apart', 'Sides apart', '°', 0.0, 180.0, 0.0, step: 1.0),
            ],
            widens: true,
            synonyms: ['auto-pan', 'autopan', 'pulse', 'modulation', 'wobble', 'lfo'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return ($values->number('apart') >= 90.0 ? 'Auto-pan ' : 'Tremolo ').NoteValue::rateText($values);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::rate($values->number('apart') >= 90.0 ? 'A-pan' : 'Trem', $values);
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $rate = NoteValue::rate($values, $setting->tempo);
        $shape = $values->choice('shape');
        $depth = $values->number('depth') / 100.0;
        $turn = 4.0 * M_PI / 200;
        $curves = [];
        foreach (['left' => 0.0, 'right' => deg2rad($values->number('apart'))] as $side => $ahead) {
            $gains = self::gains($shape, $depth, $ahead, $turn, 0, 201);
            $curves[] = ['label' => $side, 'points' => array_map(static fn (int $i): array => [round($i / 100 / $rate, 4), round(100.0 * $gains[$i], 2)], range(0, 200))];
        }

        return new Picture('Level', new Axis('s', 0.0, round(2.0 / $rate, 2), Scale::Linear), new Axis('%', 0.0, 110.0, Scale::Linear), $curves);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->lfo = new Lfo;
    }

    public function set(ParameterValues $values): void
    {
        $this->lfo->rate(NoteValue::rate($values, $this->setting->tempo), $this->setting->sampleRate);
        $this->depth = $values->number('depth') / 100.0;
        $this->apart = deg2rad($values->number('apart'));
        $this->shape = $values->choice('shape');
    }

    public function process(Block $block): void
    {
        $frames = $block->frames();
        [$phase, $turn, $since] = $this->lfo->angle();
        $this->lfo->advance($frames);
        if ($this->depth === 0.0) {
            return;
        }
        if ($this->apart !== 0.0) {
            $block->widen();
        }
        $gains = self::gains($this->shape, $this->depth, $phase, $turn, $since, $frames);
        $block->left = Samples::multiply($block->left, $gains);
        if (! $block->mono) {
            $apart = $this->apart === 0.0 ? $gains : self::gains($this->shape, $this->depth, $phase + $this->apart, $turn, $since, $frames);
            $block->right = Samples::multiply($block->right, $apart);
        }
    }

    public function reset(): void
    {
        $this->lfo->reset();
    }

    public function tail(): int
    {
        return 0;
    }

    /** @return list<float> amplitude factors */
    private static function gains(string $shape, float $depth, float $phase, float $turn, int $since, int $frames): array
    {
        $half = 0.5 * $depth;
        $middle = 1.0 - $half;
        $gains = [];
        for ($i = 0; $i < $frames; ++$i) {
            $gains[] = sin($phase + $turn * ($since + $i));
        }
        if ($shape === 'triangle') {
            for ($i = 0; $i < $frames; ++$i) {
                $gains[$i] = 2.0 / M_PI * asin($gains[$i]);
            }
        } elseif ($shape === 'square') {
            for ($i = 0; $i < $frames; ++$i) {
                $gains[$i] *= 1.00995 / sqrt($gains[$i] * $gains[$i] + 0.02);
            }
        }
        for ($i = 0; $i < $frames; ++$i) {
            $gains[$i] = $middle + $half * $gains[$i];
        }

        return $gains;
    }
}
