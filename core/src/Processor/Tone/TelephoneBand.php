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

/**
 * The narrow band of a telephone or a small loudspeaker, with the honk of its resonance.
 *
 * Source: the band of ITU-T G.712, 300 to 3400 Hz (from memory); Butterworth slopes. The honk is a bell in the middle of the band.
 */
final class TelephoneBand implements Processor
{
    use FilterCascade;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'telephone',
            'Telephone band',
            'Phone', 'Tone',
            'Leaves a narrow band, as through a telephone or a small loudspeaker.',
            [
                ParameterSpec::frequency('low', 'From', 300.0, 60.0, 2000.0),
                ParameterSpec::frequency('high', 'To', 3400.0, 1000.0, 12000.0),
                ParameterSpec::choice('slope', 'Slope', ['12dB' => '12 dB/oct', '24dB' => '24 dB/oct', '48dB' => '48 dB/oct'], '24dB'),
                ParameterSpec::decibels('honk', 'Honk', 0.0, 18.0, 0.0),
            ],
            synonyms: ['radio', 'lo-fi', 'small speaker', 'band-pass', 'narrow', 'phone'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Telephone';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        $short = static fn (float $hertz): string => $hertz < 1000.0 ? (string) round($hertz) : round($hertz / 1000.0, $hertz < 9950.0 ? 1 : 0).'k';

        return new ChipLabel('Phone', "{$short($values->number('low'))}\u{2013}{$short($values->number('high'))}");
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $sections = self::sections($values, $setting->sampleRate);

        return Picture::response(
            static fn (float $frequency): float => BiquadCoefficients::magnitudeOf($sections, $frequency, $setting->sampleRate),
            $setting->sampleRate,
            36.0,
            [
                ['label' => '', 'x' => $values->number('low'), 'y' => -3.0, 'xParameter' => 'low', 'yParameter' => null],
                ['label' => '', 'x' => $values->number('high'), 'y' => -3.0, 'xParameter' => 'high', 'yParameter' => null],
            ],
        );
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 20);
    }

    /** @return array<string, BiquadCoefficients> */
    private static function sections(ParameterValues $values, int $sampleRate): array
    {
        $order = intdiv((int) $values->choice('slope'), 6);
        $low = $values->number('low');
        $high = max($low * 1.05, $values->number('high'));
        $sections = [];
        foreach ([...Butterworth::highPass($low, $order, $sampleRate), ...Butterworth::lowPass($high, $order, $sampleRate)] as $i => $section) {
            $sections["band {$i}"] = $section;
        }
        if ($values->number('honk') > 0.0) {
            $sections['honk'] = BiquadCoefficients::peaking(sqrt($low * $high), 2.0, $values->number('honk'), $sampleRate);
        }

        return $sections;
    }
}
