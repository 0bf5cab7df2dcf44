<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

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
 * Leans the whole spectrum around one frequency: what the highs gain the lows lose.
 *
 * Source: own, from H(s) = (g s + w)/(s + g w), which is 1/g at 0 Hz, g far above and 1 in amplitude at w; bilinear transform
 * with the pivot pre-warped.
 */
final class Tilt implements Processor
{
    use FilterCascade;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'tilt',
            'Tilt',
            'Tilt', 'Tone',
            'Leans the whole spectrum: darker or brighter around one frequency.',
            [
                ParameterSpec::decibels('tilt', 'Tilt', -12.0, 12.0, 0.0),
                ParameterSpec::frequency('pivot', 'Pivot', 800.0, 100.0, 8000.0),
            ],
            synonyms: ['eq', 'bright', 'dark', 'lean', 'tone'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Tilt '.Decibel::text($values->number('tilt'), '', true);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels('Tilt', $values->number('tilt'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $section = self::section($values, $setting->sampleRate);

        return Picture::response(
            static fn (float $frequency): float => $section->magnitude($frequency, $setting->sampleRate),
            $setting->sampleRate,
            18.0,
            [['label' => '', 'x' => $values->number('pivot'), 'y' => 0.0, 'xParameter' => 'pivot', 'yParameter' => null]],
        );
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 10);
    }

    /** @return array<string, BiquadCoefficients> */
    private static function sections(ParameterValues $values, int $sampleRate): array
    {
        return $values->number('tilt') === 0.0 ? [] : ['tilt' => self::section($values, $sampleRate)];
    }

    private static function section(ParameterValues $values, int $sampleRate): BiquadCoefficients
    {
        $g = Decibel::toGain($values->number('tilt'));
        $k = tan(M_PI * $values->number('pivot') / $sampleRate);
        $a0 = 1.0 + $g * $k;

        return new BiquadCoefficients(($g + $k) / $a0, ($k - $g) / $a0, 0.0, ($g * $k - 1.0) / $a0, 0.0);
    }
}
