<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\PreDelay;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Gain\StereoMatrix;
use Hafen\Dsp\Reverb\Convolver;
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
 * The response of a room or a thing, laid over every sample.
 *
 * Source: W. G. Gardner, JAES 1995, see {@see Convolver}. The responses are made by {@see Impulse}, or a recording of one's own (WAV), of which up
 * to six seconds count. Latency is one block of the convolution.
 */
final class ConvolutionReverb implements Processor
{
    private const LONGEST_SECONDS = 6;

    private const LONGEST_PRE_DELAY = 250.0;

    /** @var array<string, array{int, Convolver}> responses made before: length in samples, and a convolver without sound in it */
    private static array $made = [];

    private readonly PreDelay $preDelay;

    private readonly BiquadCascade $tone;

    private readonly StereoMatrix $width;

    private ?Convolver $convolver = null;

    private string $response = '';

    private int $length = 0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'convolution',
            'Convolution reverb',
            'Conv', 'Space',
            'The response of a room or a thing, laid over the sound.',
            [
                ParameterSpec::choice('response', 'Response', [...Impulse::labels(), ParameterSpec::OWN_FILE => 'Own recording'], 'concert-hall'),
                ParameterSpec::audioFile('recording', 'Recording'),
                ParameterSpec::choice('decay', 'Decay', ['25%' => '25 %', '50%' => '50 %', '75%' => '75 %', '100%' => '100 %'], '100%'),
                ParameterSpec::number('pre-delay', 'Pre-delay', 'ms', 0.0, self::LONGEST_PRE_DELAY, 0.0, step: 1.0),
                ParameterSpec::frequency('low-cut', 'Low cut', 80.0, 20.0, 1000.0),
                ParameterSpec::frequency('high-cut', 'High cut', 14000.0, 1000.0),
                ParameterSpec::number('width', 'Width', '%', 0.0, 100.0, 100.0, step: 1.0),
                ParameterSpec::decibels('output', 'Output', -36.0, 24.0, 0.0),
            ],
            wetOnly: true,
            widens: true,
            synonyms: ['reverb', 'impulse', 'room', 'hall', 'cabinet', 'response', 'space'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return Impulse::labels()[$values->choice('response')] ?? 'Convolution';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Conv', Impulse::SHORT[$values->choice('response')] ?? 'own');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        [$left] = self::sides($values, $setting);
        $step = intdiv($setting->sampleRate, 200);
        $points = [];
        $pre = $values->number('pre-delay');
        for ($at = 0, $n = count($left); $at < $n; $at += $step) {
            $slice = array_slice($left, $at, $step);
            $points[] = [round($pre + 1000.0 * $at / $setting->sampleRate, 1), round(max(-80.0, 10.0 * log10(1e-12 + Samples::energy($slice) / count($slice)) + 30.0), 2)];
        }

        return new Picture(
            'Response',
            new Axis('ms', 0.0, round(max(300.0, $pre + 1000.0 * count($left) / $setting->sampleRate)), Scale::Linear),
            new Axis('dB', -60.0, 12.0, Scale::Linear),
            [['label' => 'level', 'points' => $points]],
        );
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return Convolver::DELAY;
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->preDelay = new PreDelay(self::LONGEST_PRE_DELAY, $setting->sampleRate);
        $this->tone = new BiquadCascade;
        $this->width = new StereoMatrix($setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $response = implode('/', [$values->choice('response'), $values->choice('response') === ParameterSpec::OWN_FILE ? $values->text('recording') : '', $values->choice('decay'), $rate]);
        if ($response !== $this->response) {
            $this->response = $response;
            // What a recording holds may change with its name; what we make does not.
            [$this->length, $convolver] = $values->choice('response') === ParameterSpec::OWN_FILE
                ? self::made($values, $this->setting)
                : self::$made[$response] ??= self::made($values, $this->setting);
            $this->convolver = clone $convolver;
        }
        $this->preDelay->set($values->number('pre-delay'));
        $side = 0.5 * $values->number('width') / 100.0;
        $gain = Decibel::toGain($values->number('output'));
        $this->width->towards($gain * (0.5 + $side), $gain * (0.5 - $side), $gain * (0.5 - $side), $gain * (0.5 + $side));
        $this->tone->set([
            'low-cut' => BiquadCoefficients::highPass($values->number('low-cut'), M_SQRT1_2, $rate),
            'high-cut' => BiquadCoefficients::lowPass($values->number('high-cut'), M_SQRT1_2, $rate),
        ]);
    }

    public function process(Block $block): void
    {
        $this->preDelay->process($block);
        $this->convolver?->process($block);
        $this->width->process($block);
        $this->tone->process($block);
    }

    public function reset(): void
    {
        $this->preDelay->reset();
        $this->convolver?->reset();
        $this->width->settle();
        $this->tone->reset();
    }

    public function latency(): int
    {
        return Convolver::DELAY;
    }

    public function tail(): int
    {
        return $this->preDelay->length() + $this->length;
    }

    /** @return array{int, Convolver} */
    private static function made(ParameterValues $values, Setting $setting): array
    {
        [$left, $right] = self::sides($values, $setting);

        return [count($left), new Convolver($left, $right)];
    }

    /** @return array{list<float>, list<float>} */
    private static function sides(ParameterValues $values, Setting $setting): array
    {
        $impulse = Impulse::tryFrom($values->choice('response'));
        $share = (int) $values->choice('decay') / 100.0;
        if ($impulse !== null) {
            return $impulse->response($setting->sampleRate, $share);
        }
        $recorded = $setting->audioFiles?->read($values->text('recording'), $setting->sampleRate, self::LONGEST_SECONDS * $setting->sampleRate);
        if ($recorded === null || $recorded[0] === []) {
            // Nothing recorded: the sound itself, so that nothing falls silent.
            return [[1.0], [1.0]];
        }
        [$left, $right] = $recorded;
        if ($share < 1.0) {
            $fade = [];
            $fall = 10.0 ** (-3.0 * (1.0 / $share - 1.0) / count($left));
            for ($i = 0, $gain = 1.0, $n = count($left); $i < $n; ++$i, $gain *= $fall) {
                $fade[] = $gain;
            }
            $left = Samples::multiply($left, $fade);
            $right = Samples::multiply($right, $fade);
        }
        $energy = max(1e-12, Samples::energy($left), Samples::energy($right));

        return [Samples::scale($left, 1.0 / sqrt($energy)), Samples::scale($right, 1.0 / sqrt($energy))];
    }
}
