<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Lfo;
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
use Hafen\Processor\Settles;

/**
 * A resonant filter whose frequency follows the level of the sound and a slow movement.
 *
 * Source: the state-variable filter by trapezoidal integration (A. Simper, "Linear trapezoidal integrated SVF", from memory;
 * V. Zavalishin, "The art of VA filter design"). The frequency is set anew every 16 samples, counted on the session's own grid.
 * The envelope is the peak of both sides with the attack and release of a one-pole follower.
 */
final class SweepFilter implements Positioned, Processor, Settles
{
    use FollowsLfo;
    use NoLatency;

    /** Samples for which the frequency stands still. */
    private const STEP = 16;

    private string $type = 'low-pass';

    private float $frequency = 1000.0;

    private float $damping = 1.0;

    private float $envelopeOctaves = 0.0;

    private float $attack = 0.0;

    private float $release = 0.0;

    private float $depth = 0.0;

    private float $envelope = 0.0;

    /** @var array{float, float, float} the filter's coefficients in force */
    private array $coefficients = [0.0, 0.0, 0.0];

    /** @var array{float, float} */
    private array $left = [0.0, 0.0];

    /** @var array{float, float} */
    private array $right = [0.0, 0.0];

    private bool $wasMono = true;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'sweep-filter',
            'Sweep filter',
            'Sweep', 'Tone',
            'A resonant filter moved by the level and by an LFO.',
            [
                ParameterSpec::choice('type', 'Type', ['low-pass' => 'Low-pass', 'band-pass' => 'Band-pass', 'high-pass' => 'High-pass'], 'low-pass'),
                ParameterSpec::frequency('frequency', 'Frequency', 600.0, 30.0, 16000.0),
                ParameterSpec::number('resonance', 'Resonance', '%', 0.0, 100.0, 40.0, step: 1.0),
                ParameterSpec::number('envelope', 'Envelope', 'oct', -5.0, 5.0, 2.0, group: 'Envelope'),
                ParameterSpec::number('attack', 'Attack', 'ms', 0.5, 200.0, 8.0, Scale::Logarithmic, 0.1, 'Envelope'),
                ParameterSpec::number('release', 'Release', 'ms', 10.0, 2000.0, 150.0, Scale::Logarithmic, 1.0, 'Envelope'),
                ParameterSpec::number('depth', 'Depth', 'oct', 0.0, 4.0, 0.0, group: 'LFO'),
                ...array_map(static fn (ParameterSpec $parameter): ParameterSpec => $parameter->inGroup('LFO'), NoteValue::rateParameters(1.0)),
            ],
            levelDependent: true,
            synonyms: ['wah', 'auto-wah', 'resonance', 'envelope', 'lfo', 'cutoff', 'low-pass'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Sweep '.round($values->number('frequency'));
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::frequency('Sweep', $values->number('frequency'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $rate = $setting->sampleRate;
        $frequency = $values->number('frequency');
        $q = 1.0 / self::damping($values);
        $section = match ($values->choice('type')) {
            'low-pass' => BiquadCoefficients::lowPass($frequency, $q, $rate),
            'high-pass' => BiquadCoefficients::highPass($frequency, $q, $rate),
            default => BiquadCoefficients::bandPass($frequency, $q, $rate),
        };

        return Picture::response(
            static fn (float $at): float => $section->magnitude($at, $rate),
            $rate,
            30.0,
            [['label' => '', 'x' => $frequency, 'y' => 0.0, 'xParameter' => 'frequency', 'yParameter' => null]],
            'Response at rest',
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->lfo = new Lfo;
    }

    public function set(ParameterValues $values): void
    {
        $this->lfo->rate(NoteValue::rate($values, $this->setting->tempo), $this->setting->sampleRate);
        $this->type = $values->choice('type');
        $this->frequency = $values->number('frequency');
        $this->damping = self::damping($values);
        $this->envelopeOctaves = $values->number('envelope');
        $this->attack = $this->coefficient($values->number('attack'));
        $this->release = $this->coefficient($values->number('release'));
        $this->depth = $values->number('depth');
    }

    public function process(Block $block): void
    {
        if (! $block->mono && $this->wasMono) {
            $this->right = $this->left;
        } elseif ($block->mono && ! $this->wasMono && max(abs($this->left[0] - $this->right[0]), abs($this->left[1] - $this->right[1])) > 1e-15) {
            // What still rings was two sides.
            $block->widen();
        }
        $this->wasMono = $block->mono;
        $left = $block->left;
        $right = $block->right();
        $frames = count($left);
        $outLeft = $outRight = [];
        for ($done = 0; $done < $frames; $done = $end) {
            $into = $this->lfo->position() % self::STEP;
            if ($into === 0) {
                $this->coefficients = $this->coefficientsNow();
            }
            $end = min($frames, $done + self::STEP - $into);
            $this->follow($left, $right, $done, $end);
            [$outLeft, $this->left] = self::filter($left, $outLeft, $done, $end, $this->left, $this->coefficients, $this->damping, $this->type);
            if (! $block->mono) {
                [$outRight, $this->right] = self::filter($right, $outRight, $done, $end, $this->right, $this->coefficients, $this->damping, $this->type);
            }
            $this->lfo->advance($end - $done);
        }
        $block->left = $outLeft;
        $block->right = $outRight;
    }

    public function reset(): void
    {
        $this->lfo->reset();
        $this->envelope = 0.0;
        $this->left = $this->right = [0.0, 0.0];
        $this->wasMono = true;
    }

    public function isSettled(): bool
    {
        return $this->envelope < 1e-12;
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 4);
    }

    /** @return array{float, float, float} */
    private function coefficientsNow(): array
    {
        [$phase, $turn, $since] = $this->lfo->angle();
        $octaves = $this->envelopeOctaves * min(1.0, $this->envelope) + $this->depth * sin($phase + $turn * $since);
        $frequency = min(max(20.0, $this->frequency * 2.0 ** $octaves), 0.45 * $this->setting->sampleRate);
        $g = tan(M_PI * $frequency / $this->setting->sampleRate);
        $a1 = 1.0 / (1.0 + $g * ($g + $this->damping));

        return [$a1, $g * $a1, $g * $g * $a1];
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     */
    private function follow(array $left, array $right, int $from, int $to): void
    {
        $envelope = $this->envelope;
        $attack = $this->attack;
        $release = $this->release;
        for ($i = $from; $i < $to; ++$i) {
            $l = abs($left[$i]);
            $r = abs($right[$i]);
            $level = $l > $r ? $l : $r;
            $share = $level > $envelope ? $attack : $release;
            $envelope = $level + $share * ($envelope - $level) + 1e-280 - 1e-280;
        }
        $this->envelope = $envelope;
    }

    /**
     * @param  list<float>  $in
     * @param  list<float>  $out
     * @param  array{float, float}  $state
     * @param  array{float, float, float}  $coefficients
     * @return array{list<float>, array{float, float}}
     */
    private static function filter(array $in, array $out, int $from, int $to, array $state, array $coefficients, float $damping, string $type): array
    {
        [$s1, $s2] = $state;
        [$a1, $a2, $a3] = $coefficients;
        // Shares of the input, the band and the low output.
        [$m0, $m1, $m2] = match ($type) {
            'low-pass' => [0.0, 0.0, 1.0],
            'high-pass' => [1.0, -$damping, -1.0],
            default => [0.0, $damping, 0.0],
        };
        for ($i = $from; $i < $to; ++$i) {
            $x = $in[$i];
            $v3 = $x - $s2;
            $v1 = $a1 * $s1 + $a2 * $v3;
            $v2 = $s2 + $a2 * $s1 + $a3 * $v3;
            $s1 = 2.0 * $v1 - $s1 + 1e-280 - 1e-280;
            $s2 = 2.0 * $v2 - $s2 + 1e-280 - 1e-280;
            $out[] = $m0 * $x + $m1 * $v1 + $m2 * $v2;
        }

        return [$out, [$s1, $s2]];
    }

    /** 1/Q: from 1.4 (no peak) to 0.05. */
    private static function damping(ParameterValues $values): float
    {
        return M_SQRT2 * (0.05 / M_SQRT2) ** ($values->number('resonance') / 100.0);
    }

    private function coefficient(float $milliseconds): float
    {
        return exp(-1000.0 / ($milliseconds * $this->setting->sampleRate));
    }
}
