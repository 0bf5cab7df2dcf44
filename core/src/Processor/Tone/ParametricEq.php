<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Filter\Butterworth;
use Hafen\Dsp\Gain\SteppedGain;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * Two filters, two shelves and four bells.
 *
 * Bells and shelves after the Audio EQ Cookbook (see {@see BiquadCoefficients}); a band at 0 dB costs nothing.
 */
final class ParametricEq implements Processor
{
    use NoLatency;

    private const BELLS = [1 => 200.0, 2 => 500.0, 3 => 1500.0, 4 => 5000.0];

    private readonly BiquadCascade $cascade;

    private readonly SteppedGain $output;

    public static function spec(): ProcessorSpec
    {
        $slopes = ['12dB' => '12 dB/oct', '24dB' => '24 dB/oct', '48dB' => '48 dB/oct'];
        $parameters = [
            ParameterSpec::toggle('high-pass', 'On', false, 'High-pass'),
            ParameterSpec::frequency('high-pass-frequency', 'Frequency', 60.0, group: 'High-pass'),
            ParameterSpec::choice('high-pass-slope', 'Slope', $slopes, '12dB', 'High-pass'),
            ...self::band('low-shelf', 'Low shelf', 90.0, 0.7, 2.0),
        ];
        foreach (self::BELLS as $number => $frequency) {
            $parameters = [...$parameters, ...self::band("bell-{$number}", "Bell {$number}", $frequency, 1.0, 24.0)];
        }

        return new ProcessorSpec(
            'parametric-eq',
            'Parametric EQ',
            'EQ', 'Tone',
            'Lifts and cuts bands: four bells, two shelves, two filters.',
            [
                ...$parameters,
                ...self::band('high-shelf', 'High shelf', 9000.0, 0.7, 2.0),
                ParameterSpec::toggle('low-pass', 'On', false, 'Low-pass'),
                ParameterSpec::frequency('low-pass-frequency', 'Frequency', 16000.0, group: 'Low-pass'),
                ParameterSpec::choice('low-pass-slope', 'Slope', $slopes, '12dB', 'Low-pass'),
                ParameterSpec::decibels('output', 'Output', -24.0, 24.0, 0.0, 'Output'),
            ],
            synonyms: ['eq', 'equaliser', 'equalizer', 'bell', 'shelf', 'tone'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Parametric EQ';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        $bands = (int) $values->on('high-pass') + (int) $values->on('low-pass');
        foreach (array_keys(self::bands()) as $band) {
            $bands += (int) ($values->number("{$band}-gain") !== 0.0);
        }

        return new ChipLabel('EQ', $bands === 0 ? 'flat' : $bands.($bands === 1 ? ' band' : ' bands'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $sections = self::sections($values, $setting->sampleRate);
        $output = Decibel::toGain($values->number('output'));
        $rate = $setting->sampleRate;
        $handles = [];
        foreach (self::bands() as $band => $label) {
            $handles[] = [
                'label' => $label,
                'x' => $values->number("{$band}-frequency"),
                'y' => $values->number("{$band}-gain"),
                'xParameter' => "{$band}-frequency",
                'yParameter' => "{$band}-gain",
            ];
        }
        foreach (['high-pass', 'low-pass'] as $filter) {
            if ($values->on($filter)) {
                $handles[] = [
                    'label' => $filter === 'high-pass' ? 'HP' : 'LP',
                    'x' => $values->number("{$filter}-frequency"),
                    'y' => -3.0,
                    'xParameter' => "{$filter}-frequency",
                    'yParameter' => null,
                ];
            }
        }

        return Picture::response(
            static fn (float $frequency): float => $output * BiquadCoefficients::magnitudeOf($sections, $frequency, $rate),
            $rate,
            24.0,
            $handles,
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->output = new SteppedGain($setting->sampleRate);
        $this->cascade = new BiquadCascade;
    }

    public function set(ParameterValues $values): void
    {
        $this->cascade->set(self::sections($values, $this->setting->sampleRate));
        $this->output->set($values->number('output'));
    }

    public function process(Block $block): void
    {
        $this->cascade->process($block);
        $this->output->process($block);
    }

    public function reset(): void
    {
        $this->cascade->reset();
        $this->output->settle();
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 10);
    }

    /** @return array<string, string> label on the handle of each band with a gain */
    private static function bands(): array
    {
        return ['low-shelf' => 'L', 'bell-1' => '1', 'bell-2' => '2', 'bell-3' => '3', 'bell-4' => '4', 'high-shelf' => 'H'];
    }

    /** @return list<ParameterSpec> */
    private static function band(string $id, string $label, float $frequency, float $q, float $highestQ): array
    {
        return [
            ParameterSpec::frequency("{$id}-frequency", 'Frequency', $frequency, group: $label),
            ParameterSpec::decibels("{$id}-gain", 'Gain', -24.0, 24.0, 0.0, $label),
            ParameterSpec::number("{$id}-q", 'Q', '', 0.1, $highestQ, $q, Scale::Logarithmic, 0.01, $label),
        ];
    }

    /** @return array<string, BiquadCoefficients> sections by name, only those that do something */
    private static function sections(ParameterValues $values, int $sampleRate): array
    {
        $sections = [];
        if ($values->on('high-pass')) {
            $order = intdiv((int) $values->choice('high-pass-slope'), 6);
            foreach (Butterworth::highPass($values->number('high-pass-frequency'), $order, $sampleRate) as $i => $section) {
                $sections["high-pass {$i}"] = $section;
            }
        }
        foreach (array_keys(self::bands()) as $band) {
            $gain = $values->number("{$band}-gain");
            if ($gain === 0.0) {
                continue;
            }
            $frequency = $values->number("{$band}-frequency");
            $q = $values->number("{$band}-q");
            $sections[$band] = match ($band) {
                'low-shelf' => BiquadCoefficients::lowShelf($frequency, $q, $gain, $sampleRate),
                'high-shelf' => BiquadCoefficients::highShelf($frequency, $q, $gain, $sampleRate),
                default => BiquadCoefficients::peaking($frequency, $q, $gain, $sampleRate),
            };
        }
        if ($values->on('low-pass')) {
            $order = intdiv((int) $values->choice('low-pass-slope'), 6);
            foreach (Butterworth::lowPass($values->number('low-pass-frequency'), $order, $sampleRate) as $i => $section) {
                $sections["low-pass {$i}"] = $section;
            }
        }

        return $sections;
    }
}
