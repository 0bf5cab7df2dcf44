<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Filter\GraphicBands;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Setting;

/**
 * What the graphic equalisers share: a slider for each centre of {@see centres()}, and bells that meet at the sliders' levels.
 */
trait GraphicCurve
{
    use FilterCascade;

    /** @return list<float> Hz, preferred frequencies of ISO 266 (from memory) */
    abstract private static function centres(): array;

    /** Octaves between the frequencies where one bell has half its dB. */
    abstract private static function octaves(): float;

    public static function label(ParameterValues $values): string
    {
        return 'Graphic '.count(self::centres());
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Graph', count(self::centres()).' bands');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $sections = self::sections($values, $setting->sampleRate);
        $handles = [];
        foreach (self::centres() as $centre) {
            $handles[] = ['label' => '', 'x' => $centre, 'y' => $values->number(self::id($centre)), 'xParameter' => null, 'yParameter' => self::id($centre)];
        }

        return Picture::response(
            static fn (float $frequency): float => BiquadCoefficients::magnitudeOf($sections, $frequency, $setting->sampleRate),
            $setting->sampleRate,
            15.0,
            $handles,
        );
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 5);
    }

    /** @return list<ParameterSpec> */
    private static function sliders(): array
    {
        return array_map(static fn (float $centre): ParameterSpec => ParameterSpec::decibels(
            self::id($centre),
            $centre < 1000.0 ? $centre.' Hz' : ($centre / 1000.0).' kHz',
            -12.0,
            12.0,
            0.0,
        ), self::centres());
    }

    /** @return array<string, BiquadCoefficients> */
    private static function sections(ParameterValues $values, int $sampleRate): array
    {
        $centres = array_values(array_filter(self::centres(), static fn (float $centre): bool => $centre < 0.46 * $sampleRate));

        return GraphicBands::of($centres, self::octaves(), $sampleRate)
            ->sections(array_map(static fn (float $centre): float => $values->number(self::id($centre)), $centres));
    }

    private static function id(float $centre): string
    {
        return 'band-'.str_replace('.', '-', (string) $centre);
    }
}
