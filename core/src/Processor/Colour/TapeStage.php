<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Delay\TapeTransport;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Saturation\RationalTanh;
use Hafen\Dsp\Saturation\SaturationStage;
use Hafen\Dsp\Saturation\Saturator;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/**
 * A tape: saturates the highs first, rounds the peaks, lifts the lowest octave and loses the highest.
 *
 * Source: own, after how recording works (from memory): a high shelf lifts the highs before a rational tanh (see {@see Drive}) and
 * its inverse takes them back; the bump of the head and the loss of the gap follow the speed. Twice oversampled. See {@see TapeTransport}.
 */
final class TapeStage implements Positioned, Processor
{
    /** Head bump in Hz and dB, and the frequency of the loss, by speed in cm/s. */
    private const SPEEDS = ['19cm' => [90.0, 2.5, 11000.0], '38cm' => [60.0, 1.8, 17000.0], '76cm' => [38.0, 1.2, 22000.0]];

    private readonly SaturationStage $stage;

    private readonly TapeTransport $transport;

    private string $runs = 'steady';

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'tape-stage',
            'Tape stage',
            'Tape', 'Colour',
            'Rounds peaks and highs as tape does.',
            [
                ParameterSpec::decibels('drive', 'Record level', -12.0, 24.0, 3.0),
                ParameterSpec::choice('speed', 'Speed', ['19cm' => '19 cm/s', '38cm' => '38 cm/s', '76cm' => '76 cm/s'], '38cm'),
                ParameterSpec::decibels('emphasis', 'Emphasis', 0.0, 12.0, 6.0),
                ParameterSpec::number('bump', 'Low bump', '%', 0.0, 200.0, 100.0, step: 1.0),
                ParameterSpec::choice('transport', 'Runs', ['steady' => 'Steady', 'good' => 'As a good machine', 'worn' => 'Worn'], 'steady'),
                ParameterSpec::decibels('output', 'Output', -36.0, 12.0, -3.0),
            ],
            levelDependent: true,
            followsLevel: ['drive' => -1.0, 'output' => 1.0],
            synonyms: ['saturation', 'warm', 'glue', 'machine', 'analogue', 'flutter', 'wow'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Tape '.Decibel::text($values->number('drive'), '', true);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels('Tape', $values->number('drive'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $after = self::after($values, $setting->sampleRate);
        unset($after['emphasis']);

        return Picture::response(
            static fn (float $frequency): float => BiquadCoefficients::magnitudeOf($after, $frequency, $setting->sampleRate),
            $setting->sampleRate,
            12.0,
            title: 'Response when soft',
        );
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return Saturator::delay(isTwice: true) + TapeTransport::delay($values->choice('transport'), $setting->sampleRate);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->transport = new TapeTransport($setting->sampleRate);
        $this->stage = new SaturationStage($setting->sampleRate, isTwice: true);
    }

    public function set(ParameterValues $values): void
    {
        $this->stage->level($values->number('drive'), $values->number('output'));
        $this->runs = $values->choice('transport');
        $this->transport->set($this->runs);
        $this->stage->filter(['emphasis' => self::emphasis($values->number('emphasis'), $this->setting->sampleRate)], self::after($values, $this->setting->sampleRate));
    }

    public function at(int $position): void
    {
        $this->transport->at($position);
    }

    public function process(Block $block): void
    {
        $this->stage->process($block, RationalTanh::bend(...));
        $this->transport->process($block);
    }

    public function reset(): void
    {
        $this->stage->reset();
        $this->transport->reset();
    }

    public function latency(): int
    {
        return Saturator::delay(isTwice: true) + TapeTransport::delay($this->runs, $this->setting->sampleRate);
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 5);
    }

    private static function emphasis(float $gain, int $sampleRate): BiquadCoefficients
    {
        return BiquadCoefficients::highShelf(3200.0, 0.6, $gain, $sampleRate);
    }

    /** @return array<string, BiquadCoefficients> */
    private static function after(ParameterValues $values, int $sampleRate): array
    {
        [$bumpAt, $bump, $loss] = self::SPEEDS[$values->choice('speed')];

        return [
            'emphasis' => self::emphasis(-$values->number('emphasis'), $sampleRate),
            'bump' => BiquadCoefficients::peaking($bumpAt, 1.1, $bump * $values->number('bump') / 100.0, $sampleRate),
            'below' => BiquadCoefficients::highPass(0.4 * $bumpAt, M_SQRT1_2, $sampleRate),
            'loss' => BiquadCoefficients::lowPass($loss, M_SQRT1_2, $sampleRate),
        ];
    }
}
