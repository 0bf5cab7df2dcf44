<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Filter\Butterworth;
use Hafen\Dsp\Saturation\RationalTanh;
use Hafen\Dsp\Saturation\SaturationStage;
use Hafen\Dsp\Saturation\Saturator;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/**
 * A guitar or bass amplifier and its cabinet: two stages with a filter between them, three tone controls, a loudspeaker's band.
 *
 * Source: own, from memory of how such amplifiers are built: the first stage bends one half of the wave earlier, a high-pass keeps the
 * second one tight, tone is two shelves and a bell, the cabinet a resonance, a presence bell, a dip and a steep end. Twice oversampled
 * in each stage.
 */
final class Amplifier implements Processor
{
    /** Resonance Hz and dB, presence Hz and dB, dip Hz, end Hz. */
    private const CABINETS = [
        'small' => [160.0, 3.0, 2600.0, 4.0, 700.0, 6500.0],
        'open' => [110.0, 3.5, 3200.0, 4.5, 450.0, 5500.0],
        'stack' => [90.0, 5.0, 2400.0, 5.5, 380.0, 4800.0],
        'bass' => [65.0, 4.0, 1600.0, 3.0, 500.0, 4000.0],
    ];

    private readonly SaturationStage $preamp;

    private readonly SaturationStage $power;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'amplifier',
            'Amplifier and cabinet',
            'Amp', 'Colour',
            'An amplifier for guitar or bass, with its loudspeaker.',
            [
                ParameterSpec::decibels('gain', 'Gain', 0.0, 48.0, 18.0),
                ParameterSpec::frequency('tight', 'Tight', 80.0, 20.0, 400.0),
                ParameterSpec::decibels('bass', 'Bass', -12.0, 12.0, 0.0),
                ParameterSpec::decibels('middle', 'Middle', -12.0, 12.0, 0.0),
                ParameterSpec::decibels('treble', 'Treble', -12.0, 12.0, 0.0),
                ParameterSpec::decibels('power', 'Power stage', -12.0, 18.0, 0.0),
                ParameterSpec::choice('cabinet', 'Cabinet', ['small' => 'Small', 'open' => 'Open', 'stack' => 'Stack', 'bass' => 'Bass', 'none' => 'None'], 'open'),
                ParameterSpec::decibels('output', 'Output', -36.0, 12.0, -6.0),
            ],
            levelDependent: true,
            followsLevel: ['gain' => -1.0, 'output' => 1.0],
            synonyms: ['amp', 'cab', 'cabinet', 'guitar', 'speaker', 'overdrive', 'loudspeaker'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Amplifier '.Decibel::text($values->number('gain'), '', true);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels('Amp', $values->number('gain'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $sections = [...self::tone($values, $setting->sampleRate), ...self::cabinet($values->choice('cabinet'), $setting->sampleRate)];

        return Picture::response(
            static fn (float $frequency): float => BiquadCoefficients::magnitudeOf($sections, $frequency, $setting->sampleRate),
            $setting->sampleRate,
            24.0,
            title: 'Tone and cabinet',
        );
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return 2 * Saturator::delay(isTwice: true);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->preamp = new SaturationStage($setting->sampleRate, isTwice: true);
        $this->power = new SaturationStage($setting->sampleRate, isTwice: true);
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $this->preamp->level($values->number('gain'), $values->number('power'));
        $this->preamp->filter(
            ['tight' => BiquadCoefficients::firstOrderHighPass($values->number('tight'), $rate)],
            ['dc' => BiquadCoefficients::firstOrderHighPass(30.0, $rate), ...self::tone($values, $rate)],
        );
        $this->power->level(0.0, $values->number('output'));
        $this->power->filter([], self::cabinet($values->choice('cabinet'), $rate));
    }

    public function process(Block $block): void
    {
        $this->preamp->process($block, self::bend(...));
        $this->power->process($block, RationalTanh::bend(...));
    }

    public function reset(): void
    {
        $this->preamp->reset();
        $this->power->reset();
    }

    public function latency(): int
    {
        return 2 * Saturator::delay(isTwice: true);
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 10);
    }

    /** @return array<string, BiquadCoefficients> */
    private static function tone(ParameterValues $values, int $rate): array
    {
        return [
            'bass' => BiquadCoefficients::lowShelf(150.0, 0.7, $values->number('bass'), $rate),
            'middle' => BiquadCoefficients::peaking(600.0, 0.8, $values->number('middle'), $rate),
            'treble' => BiquadCoefficients::highShelf(2200.0, 0.7, $values->number('treble'), $rate),
        ];
    }

    /** @return array<string, BiquadCoefficients> */
    private static function cabinet(string $cabinet, int $rate): array
    {
        if ($cabinet === 'none') {
            return [];
        }
        [$resonance, $lift, $presence, $edge, $dip, $end] = self::CABINETS[$cabinet];
        $sections = [
            'low' => BiquadCoefficients::highPass(0.7 * $resonance, 0.8, $rate),
            'resonance' => BiquadCoefficients::peaking($resonance, 1.6, $lift, $rate),
            'dip' => BiquadCoefficients::peaking($dip, 0.9, -4.0, $rate),
            'presence' => BiquadCoefficients::peaking($presence, 1.2, $edge, $rate),
        ];
        foreach (Butterworth::lowPass($end, 4, $rate) as $i => $section) {
            $sections["end {$i}"] = $section;
        }

        return $sections;
    }

    /**
     * The first stage: 1 - exp(-x) above, a softer bend below.
     *
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function bend(array $samples): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $samples[$i];
            $samples[$i] = $x >= 0.0 ? 1.0 - exp(-$x) : $x / (1.0 - 0.7 * $x);
        }

        return $samples;
    }
}
