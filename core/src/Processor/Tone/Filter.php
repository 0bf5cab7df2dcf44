<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Filter\Butterworth;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/** One high-pass or low-pass from 6 to 48 dB/octave, maximally flat (see {@see Butterworth}). */
final class Filter implements Processor
{
    use FilterCascade;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'filter',
            'Filter',
            'HP', 'Tone',
            'Cuts what lies below or above a frequency.',
            [
                ParameterSpec::choice('type', 'Type', ['high-pass' => 'High-pass', 'low-pass' => 'Low-pass'], 'high-pass'),
                ParameterSpec::frequency('frequency', 'Frequency', 80.0),
                ParameterSpec::choice('slope', 'Slope', self::slopes(), '12dB'),
            ],
            synonyms: ['high-pass', 'highpass', 'low-pass', 'lowpass', 'low cut', 'high cut', 'rumble'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        $frequency = $values->number('frequency');
        $text = $frequency >= 1000.0 ? rtrim(rtrim(number_format($frequency / 1000.0, 1, '.', ''), '0'), '.').'k' : (string) round($frequency);

        return ($values->choice('type') === 'high-pass' ? 'High-pass ' : 'Low-pass ').$text;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::frequency($values->choice('type') === 'high-pass' ? 'HP' : 'LP', $values->number('frequency'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $sections = self::sections($values, $setting->sampleRate);
        $rate = $setting->sampleRate;

        return Picture::response(
            static fn (float $frequency): float => BiquadCoefficients::magnitudeOf($sections, $frequency, $rate),
            $rate,
            24.0,
            [['label' => '', 'x' => $values->number('frequency'), 'y' => -3.0, 'xParameter' => 'frequency', 'yParameter' => null]],
        );
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 10);
    }

    /** @return array<string, BiquadCoefficients> */
    private static function sections(ParameterValues $values, int $sampleRate): array
    {
        $order = intdiv((int) $values->choice('slope'), 6);

        $sections = $values->choice('type') === 'high-pass'
            ? Butterworth::highPass($values->number('frequency'), $order, $sampleRate)
            : Butterworth::lowPass($values->number('frequency'), $order, $sampleRate);

        return array_combine(array_map(static fn (int $i): string => "section {$i}", array_keys($sections)), $sections);
    }

    /** @return array<string, string> */
    private static function slopes(): array
    {
        $slopes = [];
        for ($order = 1; $order <= 8; ++$order) {
            $slopes[(6 * $order).'dB'] = (6 * $order).' dB/oct';
        }

        return $slopes;
    }
}
