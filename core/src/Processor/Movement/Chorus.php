<?php

declare(strict_types=1);

namespace Hafen\Processor\Movement;

use Hafen\Audio\Block;
use Hafen\Dsp\Lfo;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\FollowsLfo;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * Three copies that waver in time around the sound, a third of a turn apart, and a quarter of a turn between the sides.
 *
 * The copies are read between samples by Hermite's cubic through four of them (from memory: Catmull-Rom). The wavering is a sine whose
 * place follows from the place in the session, so that every render is the same; a changed rate goes on from where it is.
 */
final class Chorus implements Positioned, Processor
{
    use FollowsLfo;
    use NoLatency;

    private const LONGEST_MILLISECONDS = 45.0;

    /** @var list<float> what came in last on the left, the newest at the end */
    private array $left;

    /** @var list<float> */
    private array $right;

    private readonly int $room;

    private float $delay = 0.0;

    private float $depth = 0.0;

    private float $amount = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'chorus',
            'Chorus',
            'Chorus', 'Movement',
            'One sound as if several played it.',
            [
                ParameterSpec::number('rate', 'Rate', 'Hz', 0.05, 8.0, 0.6, Scale::Logarithmic, 0.01),
                ParameterSpec::number('depth', 'Depth', 'ms', 0.0, 12.0, 3.0),
                ParameterSpec::number('delay', 'Delay', 'ms', 3.0, 30.0, 12.0),
                ParameterSpec::number('amount', 'Amount', '%', 0.0, 100.0, 60.0, step: 1.0),
            ],
            widens: true,
            synonyms: ['modulation', 'thicken', 'double', 'ensemble', 'shimmer'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return sprintf('Chorus %.1f Hz', $values->number('rate'));
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Chorus', round($values->number('rate'), $values->number('rate') < 1.0 ? 2 : 1).' Hz');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $span = 2.0 / $values->number('rate');
        $curves = [];
        foreach ([0, 1, 2] as $voice) {
            $points = [];
            for ($i = 0; $i <= 120; ++$i) {
                $turns = 2.0 * $i / 120 + $voice / 3;
                $points[] = [round($span * $i / 120, 4), round($values->number('delay') + 0.5 * $values->number('depth') * (1.0 + sin(2.0 * M_PI * $turns)), 3)];
            }
            $curves[] = ['label' => 'copy '.($voice + 1), 'points' => $points];
        }

        return new Picture('How late the copies are', new Axis('s', 0.0, round($span, 2), Scale::Linear), new Axis('ms', 0.0, self::LONGEST_MILLISECONDS, Scale::Linear), $curves);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->lfo = new Lfo;
        $this->room = (int) ceil(self::LONGEST_MILLISECONDS * $setting->sampleRate / 1000.0) + 8;
        $this->left = $this->right = array_fill(0, $this->room, 0.0);
    }

    public function set(ParameterValues $values): void
    {
        $this->lfo->rate($values->number('rate'), $this->setting->sampleRate);
        $this->delay = $values->number('delay') * $this->setting->sampleRate / 1000.0;
        $this->depth = 0.5 * $values->number('depth') * $this->setting->sampleRate / 1000.0;
        $this->amount = 0.5 * $values->number('amount') / 100.0;
    }

    public function process(Block $block): void
    {
        $block->widen();
        $frames = $block->frames();
        [$block->left, $this->left] = $this->side($block->left, $this->left, 0.0);
        [$block->right, $this->right] = $this->side($block->right, $this->right, M_PI_2);
        $this->lfo->advance($frames);
    }

    public function reset(): void
    {
        $this->left = $this->right = array_fill(0, $this->room, 0.0);
        $this->lfo->reset();
    }

    public function tail(): int
    {
        return (int) ceil($this->delay + 2.0 * $this->depth) + 2;
    }

    /**
     * Works one side.
     *
     * @param  list<float>  $samples
     * @param  list<float>  $past
     * @return array{list<float>, list<float>} what comes out, and what came in last
     */
    private function side(array $samples, array $past, float $ahead): array
    {
        $dry = 1.0 - $this->amount;
        $wet = $this->amount / sqrt(3.0);
        $depth = $this->depth;
        $middle = $this->delay + $depth;
        $third = 0.5 * sqrt(3.0);
        [$phase, $turn, $since] = $this->lfo->angle();
        $phase += $ahead;
        $line = [...$past, ...$samples];
        $out = [];
        for ($i = 0, $now = $this->room, $frames = count($samples); $i < $frames; ++$i, ++$now) {
            $angle = $phase + $turn * ($since + $i);
            $sine = sin($angle);
            $cosine = $third * cos($angle);
            $half = 0.5 * $sine;
            // Three times the same, in place: a call for each would cost more than the work.
            $delay = $middle + $depth * $sine;
            $at = $now - (int) $delay;
            $part = $delay - (int) $delay;
            $a = $line[$at + 1];
            $b = $line[$at];
            $c = $line[$at - 1];
            $d = $line[$at - 2];
            $copies = $b + 0.5 * $part * ($c - $a + $part * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $part * (3.0 * ($b - $c) + $d - $a)));
            $delay = $middle + $depth * ($cosine - $half);
            $at = $now - (int) $delay;
            $part = $delay - (int) $delay;
            $a = $line[$at + 1];
            $b = $line[$at];
            $c = $line[$at - 1];
            $d = $line[$at - 2];
            $copies += $b + 0.5 * $part * ($c - $a + $part * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $part * (3.0 * ($b - $c) + $d - $a)));
            $delay = $middle - $depth * ($cosine + $half);
            $at = $now - (int) $delay;
            $part = $delay - (int) $delay;
            $a = $line[$at + 1];
            $b = $line[$at];
            $c = $line[$at - 1];
            $d = $line[$at - 2];
            $copies += $b + 0.5 * $part * ($c - $a + $part * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $part * (3.0 * ($b - $c) + $d - $a)));
            $out[] = $dry * $samples[$i] + $wet * $copies;
        }

        return [$out, array_slice($line, -$this->room)];
    }
}
