<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Audio\Decibel;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/**
 * Clips, fuzzes or folds the waveform, after a high-pass that keeps the lows tight and before a low-pass that tames the fizz.
 *
 * Sources: hard clipping by definition; fuzz is 1 - exp(-x) above and half as much below (a diode's curve, from memory); the fold
 * is a sine, which turns back on itself beyond its peak. Four times oversampled.
 */
final class Distortion implements Processor
{
    use Saturates;

    private string $kind = 'hard';

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'distortion',
            'Distortion',
            'Dist', 'Colour',
            'Clips, fuzzes or folds the waveform.',
            [
                ParameterSpec::choice('kind', 'Kind', ['hard' => 'Hard', 'fuzz' => 'Fuzz', 'fold' => 'Fold'], 'hard'),
                ParameterSpec::decibels('drive', 'Drive', 0.0, 48.0, 18.0),
                ParameterSpec::frequency('tight', 'Low cut before', 20.0, 20.0, 800.0),
                ParameterSpec::frequency('tone', 'High cut after', 9000.0, 1000.0),
                ParameterSpec::decibels('output', 'Output', -36.0, 12.0, -9.0),
            ],
            levelDependent: true,
            followsLevel: ['drive' => -1.0, 'output' => 1.0],
            synonyms: ['fuzz', 'clip', 'crush', 'fold', 'overdrive', 'dirt'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return ucfirst(match ($values->choice('kind')) {
            'hard' => 'distortion',
            default => $values->choice('kind'),
        }).' '.Decibel::text($values->number('drive'), '', true);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels(match ($values->choice('kind')) {
            'hard' => 'Dist',
            'fuzz' => 'Fuzz',
            default => 'Fold',
        }, $values->number('drive'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $drive = $values->number('drive');
        $output = $values->number('output');
        $kind = $values->choice('kind');

        return Picture::transfer(
            static fn (float $level): float => (Decibel::fromGain(abs(self::bend([Decibel::toGain($level + $drive)], $kind)[0])) ?? -120.0) + $output,
            [],
        );
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $this->stage->level($values->number('drive'), $values->number('output'));
        $this->kind = $values->choice('kind');
        $before = $values->number('tight') > 20.0 ? ['tight' => BiquadCoefficients::highPass($values->number('tight'), M_SQRT1_2, $rate)] : [];
        $sections = $this->kind === 'fuzz' ? ['dc' => BiquadCoefficients::firstOrderHighPass(5.0, $rate)] : [];
        if ($values->number('tone') < 19999.0) {
            $sections['tone'] = BiquadCoefficients::lowPass($values->number('tone'), M_SQRT1_2, $rate);
        }
        $this->stage->filter($before, $sections);
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 3);
    }

    private function curved(array $samples): array
    {
        return self::bend($samples, $this->kind);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function bend(array $samples, string $kind): array
    {
        return match ($kind) {
            'hard' => self::hard($samples),
            'fuzz' => self::fuzz($samples),
            default => self::fold($samples),
        };
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function hard(array $samples): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $samples[$i];
            if ($x > 1.0) {
                $samples[$i] = 1.0;
            } elseif ($x < -1.0) {
                $samples[$i] = -1.0;
            }
        }

        return $samples;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function fuzz(array $samples): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $samples[$i];
            $samples[$i] = $x >= 0.0 ? 1.0 - exp(-$x) : 0.5 * (exp(2.0 * $x) - 1.0);
        }

        return $samples;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function fold(array $samples): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $samples[$i] = sin($samples[$i]);
        }

        return $samples;
    }
}
