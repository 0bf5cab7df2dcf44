<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Audio\Decibel;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Saturation\Saturator;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/**
 * Saturation from soft to hard, at four times the sample rate.
 *
 * Soft is the rational tanh x(27 + x^2)/(27 + 9x^2), which meets +-1 at +-3 with a flat tangent (a Pade approximant);
 * hard is a straight line cut at +-1; `shape` blends them. `bias` moves the working point for even harmonics, and what DC
 * that makes is taken out by a 5 Hz high-pass. `tone` is a low-pass after the curve.
 */
final class Drive implements Processor
{
    use Saturates;

    private float $shape = 0.0;

    private float $bias = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'drive',
            'Drive',
            'Drive', 'Colour',
            'Saturates, from a soft bend to a hard edge.',
            [
                ParameterSpec::decibels('drive', 'Drive', 0.0, 36.0, 6.0),
                ParameterSpec::number('shape', 'Shape', '%', 0.0, 100.0, 0.0, step: 1.0),
                ParameterSpec::number('bias', 'Bias', '%', -50.0, 50.0, 0.0, step: 1.0),
                ParameterSpec::frequency('tone', 'Tone', 20000.0, 1000.0),
                ParameterSpec::decibels('output', 'Output', -36.0, 12.0, -3.0),
            ],
            levelDependent: true,
            followsLevel: ['drive' => -1.0, 'output' => 1.0],
            synonyms: ['saturation', 'distortion', 'overdrive', 'clip', 'warm'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Drive '.Decibel::text($values->number('drive'), '', true);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels('Drive', $values->number('drive'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $drive = $values->number('drive');
        $output = $values->number('output');
        $shape = $values->number('shape') / 100.0;

        return Picture::transfer(
            static fn (float $level): float => (Decibel::fromGain(self::curve(Decibel::toGain($level + $drive), $shape)) ?? -120.0) + $output,
            [],
        );
    }

    public function set(ParameterValues $values): void
    {
        $this->stage->level($values->number('drive'), $values->number('output'));
        $this->shape = $values->number('shape') / 100.0;
        $this->bias = $values->number('bias') / 100.0;
        $sections = [];
        if ($this->bias !== 0.0) {
            $sections['dc'] = BiquadCoefficients::firstOrderHighPass(5.0, $this->setting->sampleRate);
        }
        if ($values->number('tone') < 19999.0) {
            $sections['tone'] = BiquadCoefficients::firstOrderLowPass($values->number('tone'), $this->setting->sampleRate);
        }
        $this->stage->filter([], $sections);
    }

    public function tail(): int
    {
        // What takes out the direct current of a bias forgets it in a fifth of a second.
        return 2 * Saturator::delay() + ($this->bias === 0.0 ? 0 : intdiv($this->setting->sampleRate, 3));
    }

    private function curved(array $samples): array
    {
        return self::bend($samples, $this->shape, $this->bias);
    }

    /** The curve for one sample. */
    public static function curve(float $x, float $shape): float
    {
        return self::bend([$x], $shape, 0.0)[0];
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function bend(array $samples, float $shape, float $bias): array
    {
        $soft = 1.0 - $shape;
        // What the bias makes of silence is taken off again: a bias is never above 1, where the other curve begins to clip.
        $square = $bias * $bias;
        $rest = $soft * $bias * (27.0 + $square) / (27.0 + 9.0 * $square) + $shape * $bias;
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $samples[$i] + $bias;
            if ($x >= 3.0) {
                $x = 3.0;
            } elseif ($x <= -3.0) {
                $x = -3.0;
            }
            $square = $x * $x;
            $bent = $x * (27.0 + $square) / (27.0 + 9.0 * $square);
            if ($shape > 0.0) {
                if ($x > 1.0) {
                    $x = 1.0;
                } elseif ($x < -1.0) {
                    $x = -1.0;
                }
                $bent = $soft * $bent + $shape * $x;
            }
            $samples[$i] = $bent - $rest;
        }

        return $samples;
    }
}
