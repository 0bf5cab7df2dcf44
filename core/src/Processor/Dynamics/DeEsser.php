<?php

declare(strict_types=1);

namespace Hafen\Processor\Dynamics;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\LinkwitzRiley;
use Hafen\Dsp\Gain\GainComputer;
use Hafen\Dsp\Gain\GainReducer;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\ReducesGain;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;
use Hafen\Processor\Settles;

/**
 * Turns sharp consonants down: the highs alone, or the whole sound while they are there.
 *
 * Source: a compressor after Giannoulis, Massberg, Reiss, JAES 2012, that listens above the frequency; the highs are split
 * off by a Linkwitz-Riley crossover (JAES 1976), so that nothing changes but the phase while it does nothing.
 */
final class DeEsser implements Processor, ReducesGain, Settles
{
    use NoLatency;

    private readonly GainReducer $reducer;

    private readonly BiquadCascade $low;

    private readonly BiquadCascade $high;

    private bool $isWide = false;

    private float $range = 0.0;

    private float $reported = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'de-esser',
            'De-esser',
            'De-ess', 'Dynamics',
            'Turns sharp consonants down.',
            [
                ParameterSpec::frequency('frequency', 'From', 5500.0, 2000.0, 12000.0),
                ParameterSpec::decibels('threshold', 'Threshold', -60.0, 0.0, -30.0),
                ParameterSpec::number('ratio', 'Ratio', ':1', 1.0, 20.0, 4.0, Scale::Logarithmic),
                ParameterSpec::decibels('range', 'At most', 0.0, 24.0, 10.0),
                ParameterSpec::number('attack', 'Attack', 'ms', 0.1, 20.0, 1.0, Scale::Logarithmic),
                ParameterSpec::number('release', 'Release', 'ms', 5.0, 500.0, 60.0, Scale::Logarithmic, 1.0),
                ParameterSpec::choice('works-on', 'Works on', ['highs' => 'The highs', 'all' => 'The whole sound'], 'highs'),
            ],
            levelDependent: true,
            followsLevel: ['threshold' => 1.0],
            synonyms: ['sibilance', 'ess', 'voice', 'dynamics', 'sharp'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'De-esser '.round($values->number('frequency') / 1000.0, 1).'k';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::frequency('De-ess', $values->number('frequency'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $curve = new GainComputer($values->number('threshold'), $values->number('ratio'), 0.0);
        $threshold = $values->number('threshold');
        $range = $values->number('range');

        return Picture::transfer(
            static fn (float $level): float => max($curve->output($level), $level - $range),
            [['label' => '', 'x' => $threshold, 'y' => $threshold, 'xParameter' => 'threshold', 'yParameter' => null]],
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->reducer = new GainReducer($setting->sampleRate);
        $this->low = new BiquadCascade;
        $this->high = new BiquadCascade;
    }

    public function set(ParameterValues $values): void
    {
        $this->reducer->set(new GainComputer($values->number('threshold'), $values->number('ratio'), 0.0), $values->number('attack'), $values->number('release'));
        $this->range = Decibel::toGain(-$values->number('range'));
        $this->isWide = $values->choice('works-on') === 'all';
        $this->low->set(LinkwitzRiley::band(0, [$values->number('frequency')], $this->setting->sampleRate));
        $this->high->set(LinkwitzRiley::band(1, [$values->number('frequency')], $this->setting->sampleRate));
    }

    public function process(Block $block): void
    {
        $high = clone $block;
        $this->high->process($high);
        // What comes of ones is the gains.
        $ones = Block::mono(array_fill(0, $block->frames(), 1.0));
        $this->reducer->process($ones, $high);
        [$gains, $least] = self::held($ones->left, $this->range);
        $this->reported = -20.0 * log10($least);
        $worked = $this->isWide ? $block : $high;
        $worked->left = Samples::multiply($worked->left, $gains);
        if (! $worked->mono) {
            $worked->right = Samples::multiply($worked->right, $gains);
        }
        // The low band keeps its state also while the whole sound is worked on.
        $low = $this->isWide ? clone $block : $block;
        $this->low->process($low);
        if (! $this->isWide) {
            if (! $block->mono || ! $high->mono) {
                $block->widen();
                $high->widen();
            }
            $block->left = Samples::addScaled($block->left, $high->left, 1.0);
            if (! $block->mono) {
                $block->right = Samples::addScaled($block->right, $high->right, 1.0);
            }
        }
    }

    public function reset(): void
    {
        $this->reducer->reset();
        $this->low->reset();
        $this->high->reset();
        $this->reported = 0.0;
    }

    public function isSettled(): bool
    {
        return $this->reducer->isSettled();
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 50);
    }

    public function gainReduction(): float
    {
        return $this->reported;
    }

    /**
     * @param  list<float>  $gains
     * @return array{list<float>, float} none below the lowest allowed, and the least of them
     */
    private static function held(array $gains, float $lowest): array
    {
        $least = 1.0;
        for ($i = 0, $n = count($gains); $i < $n; ++$i) {
            if ($gains[$i] < $lowest) {
                $gains[$i] = $lowest;
            }
            if ($gains[$i] < $least) {
                $least = $gains[$i];
            }
        }

        return [$gains, $least];
    }
}
