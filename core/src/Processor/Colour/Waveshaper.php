<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Saturation\MonotoneCubic;
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
 * Sends the waveform through a curve that is drawn, or through one that adds chosen harmonics.
 *
 * Sources: the drawn points are joined by monotone cubics (F. N. Fritsch, R. E. Carlson, SIAM J. Numer. Anal. 1980); harmonics come from
 * Chebyshev's polynomials, T_n(cos a) = cos(n a), less their value at 0, so that silence stays silent. Beyond -1 and +1 the curve
 * stays where it ends. Four times oversampled; direct current, if the curve makes any, is taken out by a 5 Hz
 * high-pass.
 */
final class Waveshaper implements Processor
{
    use Saturates;

    private const POINTS = 9;

    /** Steps of the table from -1 to 1; between them it is read along straight lines. */
    private const STEPS = 4096;

    /** @var array<string, float|string|bool> the values the table was made from */
    private array $curve = [];

    /** @var list<float> */
    private array $table = [];

    public static function spec(): ProcessorSpec
    {
        $parameters = [
            ParameterSpec::choice('kind', 'Curve', ['drawn' => 'Drawn', 'harmonics' => 'Harmonics'], 'drawn'),
            ParameterSpec::decibels('drive', 'Drive', -24.0, 36.0, 0.0),
            ParameterSpec::decibels('output', 'Output', -36.0, 12.0, 0.0),
        ];
        for ($point = 0; $point < self::POINTS; ++$point) {
            $x = self::x($point);
            $parameters[] = ParameterSpec::number("point-{$point}", sprintf('At %+.0f %%', 100.0 * $x), '%', -100.0, 100.0, 100.0 * $x, step: 1.0, group: 'Points');
        }
        for ($harmonic = 1; $harmonic <= 5; ++$harmonic) {
            $parameters[] = ParameterSpec::number("harmonic-{$harmonic}", $harmonic === 1 ? 'Fundamental' : "{$harmonic}th", '%', -100.0, 100.0, $harmonic === 1 ? 100.0 : 0.0, step: 1.0, group: 'Harmonics');
        }

        return new ProcessorSpec(
            'waveshaper',
            'Waveshaper',
            'Shape', 'Colour',
            'Bends the waveform along a curve you draw.',
            $parameters,
            levelDependent: true,
            followsLevel: ['drive' => -1.0, 'output' => 1.0],
            synonyms: ['curve', 'harmonics', 'shape', 'draw', 'transfer', 'exciter'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return $values->choice('kind') === 'drawn' ? 'Waveshaper' : 'Harmonics';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels('Shape', $values->number('drive'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $table = self::table($values);
        $points = [];
        for ($i = 0; $i <= self::STEPS; $i += 32) {
            $points[] = [round(2.0 * $i / self::STEPS - 1.0, 4), round($table[$i], 4)];
        }
        $handles = [];
        if ($values->choice('kind') === 'drawn') {
            for ($point = 0; $point < self::POINTS; ++$point) {
                // The axes are those of the parameters, in per cent.
                $handles[] = ['label' => '', 'x' => 100.0 * self::x($point), 'y' => $values->number("point-{$point}"), 'xParameter' => null, 'yParameter' => "point-{$point}"];
            }
        }

        return new Picture(
            'Wave in, wave out',
            new Axis('% in', -100.0, 100.0, Scale::Linear),
            new Axis('% out', -110.0, 110.0, Scale::Linear),
            [
                ['label' => 'unchanged', 'points' => [[-100.0, -100.0], [100.0, 100.0]]],
                ['label' => 'curve', 'points' => array_map(static fn (array $p): array => [100.0 * $p[0], 100.0 * $p[1]], $points)],
            ],
            $handles,
        );
    }

    public function set(ParameterValues $values): void
    {
        $this->stage->level($values->number('drive'), $values->number('output'));
        // Drive and output move often, the curve seldom.
        $curve = array_diff_key($values->toArray(), ['drive' => 0, 'output' => 0]);
        if ($curve !== $this->curve) {
            $this->curve = $curve;
            // Silence stays silence, wherever the curve passes.
            $table = self::table($values);
            $rest = $table[self::STEPS >> 1];
            $this->table = array_map(static fn (float $bent): float => $bent - $rest, $table);
            $this->stage->filter([], self::isOdd($this->table) ? [] : ['dc' => BiquadCoefficients::firstOrderHighPass(5.0, $this->setting->sampleRate)]);
        }
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 8);
    }

    private function curved(array $samples): array
    {
        return self::bend($samples, $this->table);
    }

    /**
     * Whether both halves of the wave are bent alike, which makes no direct current.
     *
     * @param  list<float>  $table
     */
    private static function isOdd(array $table): bool
    {
        for ($i = 0, $j = self::STEPS; $i <= $j; $i += 8, $j -= 8) {
            if (abs($table[$i] + $table[$j]) > 1e-12) {
                return false;
            }
        }

        return true;
    }

    /** Place of a drawn point, -1 to 1. */
    private static function x(int $point): float
    {
        return 2.0 * $point / (self::POINTS - 1) - 1.0;
    }

    /** @return list<float> the curve from -1 to 1 */
    private static function table(ParameterValues $values): array
    {
        if ($values->choice('kind') === 'drawn') {
            $points = [];
            for ($point = 0; $point < self::POINTS; ++$point) {
                $points[] = $values->number("point-{$point}") / 100.0;
            }

            return MonotoneCubic::through($points, intdiv(self::STEPS, self::POINTS - 1));
        }
        $amounts = [];
        for ($harmonic = 1; $harmonic <= 5; ++$harmonic) {
            $amounts[] = $values->number("harmonic-{$harmonic}") / 100.0;
        }
        $table = [];
        for ($i = 0; $i <= self::STEPS; ++$i) {
            $x = 2.0 * $i / self::STEPS - 1.0;
            $square = $x * $x;
            $table[] = $amounts[0] * $x + $amounts[1] * 2.0 * $square + $amounts[2] * $x * (4.0 * $square - 3.0)
                + $amounts[3] * 8.0 * $square * ($square - 1.0) + $amounts[4] * $x * (16.0 * $square * $square - 20.0 * $square + 5.0);
        }

        return $table;
    }

    /**
     * @param  list<float>  $samples
     * @param  list<float>  $table
     * @return list<float>
     */
    private static function bend(array $samples, array $table): array
    {
        $half = self::STEPS / 2.0;
        $last = $table[self::STEPS];
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $tablePosition = $half * ($samples[$i] + 1.0);
            if ($tablePosition <= 0.0) {
                $samples[$i] = $table[0];
            } elseif ($tablePosition >= self::STEPS) {
                $samples[$i] = $last;
            } else {
                $at = (int) $tablePosition;
                $low = $table[$at];
                $samples[$i] = $low + ($tablePosition - $at) * ($table[$at + 1] - $low);
            }
        }

        return $samples;
    }
}
