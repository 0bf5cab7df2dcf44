<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Gain\StereoMatrix;
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
 * The gentle curve of a mixing desk: on a channel a little of the second harmonic, on a bus the third and some of the other side.
 *
 * Source: own, after the behaviour of amplifier stages and transformers (from memory): y = tanh(g x)/g (rational, see
 * {@see RationalTanh}) with a share of x^2 on channels; the other side leaks into a bus. Twice oversampled. Soft sounds pass unchanged
 * in level.
 */
final class ConsoleStage implements Processor
{
    private readonly SaturationStage $stage;

    private readonly StereoMatrix $leak;

    private float $gain = 1.0;

    private float $even = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'console-stage',
            'Console stage',
            'Desk', 'Colour',
            'The gentle curve of a desk, for channels and for the bus.',
            [
                ParameterSpec::choice('place', 'Place', ['channel' => 'Channel', 'bus' => 'Bus'], 'channel'),
                ParameterSpec::number('amount', 'Amount', '%', 0.0, 100.0, 40.0, step: 1.0),
                ParameterSpec::decibels('weight', 'Weight', 0.0, 3.0, 0.5),
                ParameterSpec::decibels('leak', 'Leak between sides', -90.0, -30.0, -66.0),
            ],
            levelDependent: true,
            synonyms: ['desk', 'saturation', 'glue', 'transformer', 'crosstalk', 'warm'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return $values->choice('place') === 'bus' ? 'Console bus' : 'Console';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::percent('Desk', $values->number('amount'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        [$gain, $even] = self::curve($values);

        return Picture::transfer(static fn (float $level): float => Decibel::fromGain(self::bend([Decibel::toGain($level)], $gain, $even)[0]) ?? -120.0, []);
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return Saturator::delay(isTwice: true);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->stage = new SaturationStage($setting->sampleRate, isTwice: true);
        $this->leak = new StereoMatrix($setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        [$this->gain, $this->even] = self::curve($values);
        $leak = $values->choice('place') === 'bus' ? Decibel::toGain($values->number('leak')) : 0.0;
        $this->leak->towards(1.0 - $leak, $leak, $leak, 1.0 - $leak);
        $sections = $this->even === 0.0 ? [] : ['dc' => BiquadCoefficients::firstOrderHighPass(5.0, $this->setting->sampleRate)];
        if ($values->number('weight') > 0.0) {
            $sections['weight'] = BiquadCoefficients::lowShelf(90.0, 0.6, $values->number('weight'), $this->setting->sampleRate);
        }
        $this->stage->filter([], $sections);
    }

    public function process(Block $block): void
    {
        $this->leak->process($block);
        $this->stage->process($block, fn (array $samples): array => self::bend($samples, $this->gain, $this->even));
    }

    public function reset(): void
    {
        $this->leak->settle();
        $this->stage->reset();
    }

    public function latency(): int
    {
        return Saturator::delay(isTwice: true);
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 8);
    }

    /** @return array{float, float} how far into the curve, share of the square */
    private static function curve(ParameterValues $values): array
    {
        $amount = $values->number('amount') / 100.0;

        return [max(0.001, 1.5 * $amount), $values->choice('place') === 'channel' ? 0.12 * $amount : 0.0];
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function bend(array $samples, float $gain, float $even): array
    {
        $back = 1.0 / $gain;
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $gain * $samples[$i];
            if ($x >= 3.0) {
                $x = 3.0;
            } elseif ($x <= -3.0) {
                $x = -3.0;
            }
            $square = $x * $x;
            $y = $x * (27.0 + $square) / (27.0 + 9.0 * $square);
            $samples[$i] = $back * ($y + $even * $y * $y);
        }

        return $samples;
    }
}
