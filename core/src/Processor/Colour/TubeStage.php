<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Saturation\SaturationStage;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * A valve stage: bends one half of the wave earlier than the other, and the louder it gets the more its working point leans.
 *
 * Source: own, after the behaviour of a triode with a coupling capacitor (from memory): a rational tanh (see {@see Drive}) around a
 * working point that a 60 ms mean of the rectified signal moves; what direct current that makes is taken out by a 10 Hz high-pass.
 * Four times oversampled. The small-signal gain is that of the drive.
 */
final class TubeStage implements Processor
{
    use Saturates;

    private float $bias = 0.0;

    private float $lean = 0.0;

    private float $meanLeft = 0.0;

    private float $meanRight = 0.0;

    private bool $wasMono = true;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'tube-stage',
            'Tube stage',
            'Tube', 'Colour',
            'Warms with even harmonics and leans the louder it gets.',
            [
                ParameterSpec::decibels('drive', 'Drive', -12.0, 30.0, 6.0),
                ParameterSpec::number('bias', 'Bias', '%', 0.0, 100.0, 35.0, step: 1.0),
                ParameterSpec::number('lean', 'Lean', '%', 0.0, 100.0, 30.0, step: 1.0),
                ParameterSpec::decibels('output', 'Output', -36.0, 12.0, -3.0),
            ],
            levelDependent: true,
            followsLevel: ['drive' => -1.0, 'output' => 1.0],
            synonyms: ['valve', 'warm', 'saturation', 'harmonics', 'preamp'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Tube '.Decibel::text($values->number('drive'), '', true);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels('Tube', $values->number('drive'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $drive = Decibel::toGain($values->number('drive'));
        $output = Decibel::toGain($values->number('output'));
        $points = [];
        for ($x = -1.0; $x < 1.001; $x += 0.02) {
            $points[] = [round($x, 2), round($output * self::bend([$x * $drive], self::working($values))[0], 4)];
        }

        return new Picture('Wave in, wave out', new Axis('in', -1.0, 1.0, Scale::Linear), new Axis('out', -1.2, 1.2, Scale::Linear), [
            ['label' => 'unchanged', 'points' => [[-1.0, -1.0], [1.0, 1.0]]],
            ['label' => 'curve', 'points' => $points],
        ]);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->stage = new SaturationStage($setting->sampleRate);
        // Once: what is automated is set again and again.
        $this->stage->filter([], ['dc' => BiquadCoefficients::firstOrderHighPass(10.0, $setting->sampleRate)]);
    }

    public function set(ParameterValues $values): void
    {
        $this->stage->level($values->number('drive'), $values->number('output'));
        $this->bias = self::working($values);
        $this->lean = $values->number('lean') / 100.0;
    }

    public function process(Block $block): void
    {
        $this->stage->process($block, $this->curved(...), $this->lean(...));
    }

    public function reset(): void
    {
        $this->stage->reset();
        $this->meanLeft = $this->meanRight = 0.0;
        $this->wasMono = true;
    }

    public function tail(): int
    {
        // The working point comes back in about half a second.
        return intdiv($this->setting->sampleRate, 2);
    }

    private function curved(array $samples): array
    {
        return self::bend($samples, $this->bias);
    }

    /** Moves the working point of both sides by how loud they are. */
    private function lean(Block $block): void
    {
        if (! $block->mono && $this->wasMono) {
            $this->meanRight = $this->meanLeft;
        } elseif ($block->mono && ! $this->wasMono && abs($this->meanLeft - $this->meanRight) > 1e-12) {
            // The sides were not equally loud a moment ago.
            $block->widen();
        }
        $this->wasMono = $block->mono;
        [$block->left, $this->meanLeft] = $this->leaned($block->left, $this->meanLeft);
        if (! $block->mono) {
            [$block->right, $this->meanRight] = $this->leaned($block->right, $this->meanRight);
        }
    }

    private static function working(ParameterValues $values): float
    {
        return 0.8 * $values->number('bias') / 100.0;
    }

    /**
     * Adds the lean of the working point.
     *
     * @param  list<float>  $samples
     * @return array{list<float>, float}
     */
    private function leaned(array $samples, float $mean): array
    {
        if ($this->lean === 0.0) {
            return [$samples, 0.0];
        }
        $lean = $this->lean;
        $smooth = exp(-1000.0 / (60.0 * $this->setting->sampleRate));
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $level = abs($samples[$i]);
            $level = $level > 2.0 ? 2.0 : $level;
            $mean = $level + $smooth * ($mean - $level) + 1e-280 - 1e-280;
            $samples[$i] += $lean * $mean;
        }

        return [$samples, $mean];
    }

    /**
     * The curve around a working point, with a slope of 1 there and 0 for 0.
     *
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function bend(array $samples, float $bias): array
    {
        $square = $bias * $bias;
        $rest = $bias * (27.0 + $square) / (27.0 + 9.0 * $square);
        // Derivative of the rational tanh.
        $slope = ($square - 9.0) * ($square - 9.0) / (9.0 * ($square + 3.0) * ($square + 3.0));
        $gain = 1.0 / $slope;
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $samples[$i] + $bias;
            if ($x >= 3.0) {
                $x = 3.0;
            } elseif ($x <= -3.0) {
                $x = -3.0;
            }
            $square = $x * $x;
            $samples[$i] = $gain * ($x * (27.0 + $square) / (27.0 + 9.0 * $square) - $rest);
        }

        return $samples;
    }
}
