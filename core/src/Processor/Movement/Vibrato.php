<?php

declare(strict_types=1);

namespace Hafen\Processor\Movement;

use Hafen\Audio\Block;
use Hafen\Dsp\Delay\WaveringSides;
use Hafen\Dsp\Lfo;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\FollowsLfo;
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
 * The pitch wavers.
 *
 * Source: a delay d(t) = d0 + D sin(2 pi f t) bends the pitch by up to 2 pi f D (Doppler), so D follows from the depth in cents,
 * 1200/ln 2 of them to a ratio of e. The middle of the delay is always 6 ms and is declared as latency, so that a share of dry
 * sound lies in its middle.
 */
final class Vibrato implements Positioned, Processor
{
    use FollowsLfo;

    private const MIDDLE_MILLISECONDS = 6.0;

    private readonly WaveringSides $sides;

    private readonly int $middle;

    private float $depth = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'vibrato',
            'Vibrato',
            'Vib', 'Movement',
            'The pitch wavers.',
            [
                ...NoteValue::rateParameters(5.5, 0.2),
                ParameterSpec::number('depth', 'Depth', 'ct', 0.0, 100.0, 20.0, step: 1.0),
            ],
            synonyms: ['pitch', 'wobble', 'modulation', 'lfo', 'wow'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Vibrato '.NoteValue::rateText($values);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::rate('Vib', $values);
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $rate = NoteValue::rate($values, $setting->tempo);
        $cents = self::depth($values, $setting) / $setting->sampleRate * 2.0 * M_PI * $rate * 1200.0 / M_LN2;
        $points = array_map(static fn (int $i): array => [round($i / 60 / $rate, 4), round($cents * cos(2.0 * M_PI * $i / 60), 2)], range(0, 120));

        return new Picture('Pitch', new Axis('s', 0.0, round(2.0 / $rate, 2), Scale::Linear), new Axis('ct', -100.0, 100.0, Scale::Linear), [['label' => 'pitch', 'points' => $points]]);
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return (int) round(self::MIDDLE_MILLISECONDS * $setting->sampleRate / 1000.0);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->lfo = new Lfo;
        $this->middle = (int) round(self::MIDDLE_MILLISECONDS * $setting->sampleRate / 1000.0);
        $this->sides = new WaveringSides(2 * $this->middle);
    }

    public function set(ParameterValues $values): void
    {
        $this->lfo->rate(NoteValue::rate($values, $this->setting->tempo), $this->setting->sampleRate);
        $this->depth = self::depth($values, $this->setting);
    }

    public function process(Block $block): void
    {
        $frames = $block->frames();
        [$phase, $turn, $since] = $this->lfo->angle();
        $this->lfo->advance($frames);
        $delays = [];
        $middle = (float) $this->middle;
        $depth = $this->depth;
        for ($i = 0; $i < $frames; ++$i) {
            $delays[] = $middle + $depth * sin($phase + $turn * ($since + $i));
        }
        $this->sides->process($block, $delays);
    }

    public function reset(): void
    {
        $this->lfo->reset();
        $this->sides->reset();
    }

    public function latency(): int
    {
        return $this->middle;
    }

    public function tail(): int
    {
        return 2 * $this->middle;
    }

    /** Samples by which the delay moves each way. */
    private static function depth(ParameterValues $values, Setting $setting): float
    {
        $seconds = $values->number('depth') * M_LN2 / 1200.0 / (2.0 * M_PI * NoteValue::rate($values, $setting->tempo));

        return min($seconds * $setting->sampleRate, self::MIDDLE_MILLISECONDS * $setting->sampleRate / 1000.0 - 3.0);
    }
}
