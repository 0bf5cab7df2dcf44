<?php

declare(strict_types=1);

namespace Hafen\Processor\Movement;

use Hafen\Audio\Block;
use Hafen\Dsp\Lfo;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoteValue;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/**
 * Notches that wander: a chain of all-passes against the sound itself.
 *
 * Source: first-order all-passes in series with feedback, added to the input (J. O. Smith, "Physical Audio Signal Processing", phasing,
 * from memory): half as many notches as stages. The frequency is set anew every 16 samples of the session's own grid, between the
 * lowest and the highest over a logarithmic scale.
 */
final class Phaser implements Positioned, Processor
{
    use MovingNotches;

    private const STEP = 16;

    private const MOST_STAGES = 12;

    private int $stages = 6;

    private float $low = 200.0;

    private float $high = 2000.0;

    private float $leftCoefficient = 0.0;

    private float $rightCoefficient = 0.0;

    /** @var list<float> states of the stages and the last output */
    private array $left;

    /** @var list<float> */
    private array $right;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'phaser',
            'Phaser',
            'Phaser', 'Movement',
            'Notches that wander through the spectrum.',
            [
                ...NoteValue::rateParameters(0.4, 0.02, 8.0),
                ParameterSpec::choice('stages', 'Stages', ['4-stages' => '4', '6-stages' => '6', '8-stages' => '8', '10-stages' => '10', '12-stages' => '12'], '6-stages'),
                ParameterSpec::frequency('low', 'From', 200.0, 50.0, 5000.0),
                ParameterSpec::frequency('high', 'To', 2500.0, 100.0, 12000.0),
                ...self::notchParameters(90.0, 30.0),
            ],
            widens: true,
            synonyms: ['phase', 'notch', 'all-pass', 'modulation', 'sweep', 'lfo'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Phaser '.NoteValue::rateText($values);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::rate('Phaser', $values);
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $middle = sqrt($values->number('low') * $values->number('high'));
        $stages = (int) $values->choice('stages');
        $k = tan(M_PI * $middle / $setting->sampleRate);

        return Picture::response(
            // Each stage turns by 2 atan(tan(w/2)/k).
            static fn (float $frequency): float => self::magnitude($values, 2.0 * $stages * atan(tan(M_PI * $frequency / $setting->sampleRate) / $k)),
            $setting->sampleRate,
            24.0,
            title: 'Half way',
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->lfo = new Lfo;
        $this->left = $this->right = array_fill(0, self::MOST_STAGES + 1, 0.0);
    }

    public function set(ParameterValues $values): void
    {
        $this->lfo->rate(NoteValue::rate($values, $this->setting->tempo), $this->setting->sampleRate);
        $this->stages = (int) $values->choice('stages');
        $this->low = $values->number('low');
        $this->high = $values->number('high');
        $this->setNotches($values);
    }

    public function process(Block $block): void
    {
        $block->widen();
        $left = $block->left;
        $right = $block->right;
        $block->left = $block->right = [];
        for ($done = 0, $frames = count($left); $done < $frames; $done = $end) {
            $into = $this->lfo->position() % self::STEP;
            if ($into === 0) {
                $this->leftCoefficient = $this->coefficient(0.0);
                $this->rightCoefficient = $this->coefficient($this->apart);
            }
            $end = min($frames, $done + self::STEP - $into);
            [$left, $this->left] = $this->run($left, $done, $end, $this->left, $this->leftCoefficient);
            [$right, $this->right] = $this->run($right, $done, $end, $this->right, $this->rightCoefficient);
            $this->lfo->advance($end - $done);
        }
        $block->left = $left;
        $block->right = $right;
    }

    public function reset(): void
    {
        $this->lfo->reset();
        $this->left = $this->right = array_fill(0, self::MOST_STAGES + 1, 0.0);
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 4);
    }

    private function coefficient(float $ahead): float
    {
        [$phase, $turn, $since] = $this->lfo->angle();
        $sweep = 0.5 + 0.5 * sin($phase + $ahead + $turn * $since);
        $frequency = min($this->low * ($this->high / $this->low) ** $sweep, 0.45 * $this->setting->sampleRate);
        $k = tan(M_PI * $frequency / $this->setting->sampleRate);

        return ($k - 1.0) / ($k + 1.0);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $state
     * @return array{list<float>, list<float>} samples and state
     */
    private function run(array $x, int $from, int $to, array $state, float $c): array
    {
        [$s0, $s1, $s2, $s3, $s4, $s5, $s6, $s7, $s8, $s9, $s10, $s11, $last] = $state;
        $stages = $this->stages;
        $feedback = $this->feedback;
        $wet = $this->amount;
        $dry = 1.0 - $wet;
        for ($i = $from; $i < $to; ++$i) {
            $v = $x[$i] + $feedback * $last;
            $y = $c * $v + $s0 + 1e-280 - 1e-280;
            $s0 = $v - $c * $y;
            $v = $c * $y + $s1;
            $s1 = $y - $c * $v;
            $y = $c * $v + $s2;
            $s2 = $v - $c * $y;
            $v = $c * $y + $s3;
            $s3 = $y - $c * $v;
            if ($stages > 4) {
                $y = $c * $v + $s4;
                $s4 = $v - $c * $y;
                $v = $c * $y + $s5;
                $s5 = $y - $c * $v;
                if ($stages > 6) {
                    $y = $c * $v + $s6;
                    $s6 = $v - $c * $y;
                    $v = $c * $y + $s7;
                    $s7 = $y - $c * $v;
                    if ($stages > 8) {
                        $y = $c * $v + $s8;
                        $s8 = $v - $c * $y;
                        $v = $c * $y + $s9;
                        $s9 = $y - $c * $v;
                        if ($stages > 10) {
                            $y = $c * $v + $s10;
                            $s10 = $v - $c * $y;
                            $v = $c * $y + $s11;
                            $s11 = $y - $c * $v;
                        }
                    }
                }
            }
            $last = $v;
            $x[$i] = $dry * $x[$i] + $wet * $v;
        }

        return [$x, [$s0, $s1, $s2, $s3, $s4, $s5, $s6, $s7, $s8, $s9, $s10, $s11, $last]];
    }
}
