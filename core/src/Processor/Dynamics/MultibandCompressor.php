<?php

declare(strict_types=1);

namespace Hafen\Processor\Dynamics;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\LinkwitzRiley;
use Hafen\Dsp\Gain\GainComputer;
use Hafen\Dsp\Gain\GainReducer;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\HoldsSidechain;
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
use Hafen\Processor\TakesSidechain;

/**
 * Three compressors, each on a band of its own.
 *
 * Sources: S. Linkwitz, E. Riley, JAES 1976, for the crossovers, whose bands add up flat; Giannoulis, Massberg, Reiss, JAES 2012,
 * for the compressors.
 */
final class MultibandCompressor implements Processor, ReducesGain, Settles, TakesSidechain
{
    use HoldsSidechain;
    use NoLatency;

    private const BANDS = ['low' => 'Low', 'mid' => 'Middle', 'high' => 'High'];

    /** @var array<string, BiquadCascade> */
    private readonly array $filters;

    /** @var array<string, BiquadCascade> */
    private readonly array $keyFilters;

    /** @var array<string, GainReducer> */
    private readonly array $reducers;

    /** @var array<string, bool> */
    private array $isMuted = ['low' => false, 'mid' => false, 'high' => false];

    private float $reported = 0.0;

    public static function spec(): ProcessorSpec
    {
        $parameters = [
            ParameterSpec::frequency('low-crossover', 'Low to middle', 160.0, 40.0, 1000.0),
            ParameterSpec::frequency('high-crossover', 'Middle to high', 3000.0, 1000.0, 12000.0),
            ParameterSpec::choice('listen', 'Listen to', ['all' => 'All bands', ...self::BANDS], 'all'),
        ];
        foreach (self::BANDS as $band => $label) {
            array_push(
                $parameters,
                ParameterSpec::decibels("{$band}-threshold", 'Threshold', -60.0, 0.0, -24.0, $label),
                ParameterSpec::number("{$band}-ratio", 'Ratio', ':1', 1.0, 20.0, 2.0, Scale::Logarithmic, group: $label),
                ParameterSpec::number("{$band}-attack", 'Attack', 'ms', 0.1, 200.0, $band === 'low' ? 30.0 : 10.0, Scale::Logarithmic, group: $label),
                ParameterSpec::number("{$band}-release", 'Release', 'ms', 5.0, 2000.0, $band === 'low' ? 200.0 : 100.0, Scale::Logarithmic, 1.0, $label),
                ParameterSpec::decibels("{$band}-gain", 'Gain', -24.0, 24.0, 0.0, $label),
            );
        }

        return new ProcessorSpec(
            'multiband-compressor',
            'Multiband compressor',
            'Multi', 'Dynamics',
            'Three compressors, for lows, middle and highs.',
            $parameters,
            levelDependent: true,
            followsLevel: ['low-threshold' => 1.0, 'mid-threshold' => 1.0, 'high-threshold' => 1.0],
            synonyms: ['comp', 'multiband', 'bands', 'dynamics', 'master'],
            takesSidechain: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Multiband';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Multi', count(self::BANDS).' bands');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $curves = [];
        $handles = [];
        foreach (self::BANDS as $band => $label) {
            $curve = self::curve($values, $band);
            $gain = $values->number("{$band}-gain");
            $points = [];
            for ($level = -60.0; $level <= 6.0; $level += 1.0) {
                $points[] = [$level, round($curve->output($level) + $gain, 3)];
            }
            $curves[] = ['label' => $label, 'points' => $points];
            $threshold = $values->number("{$band}-threshold");
            $handles[] = ['label' => $label[0], 'x' => $threshold, 'y' => $curve->output($threshold) + $gain, 'xParameter' => "{$band}-threshold", 'yParameter' => null];
        }

        return new Picture(
            'Level in, level out of each band',
            new Axis('dB in', -60.0, 6.0, Scale::Linear),
            new Axis('dB out', -60.0, 6.0, Scale::Linear),
            $curves,
            $handles,
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $filters = $keyFilters = $reducers = [];
        foreach (array_keys(self::BANDS) as $band) {
            $filters[$band] = new BiquadCascade;
            $keyFilters[$band] = new BiquadCascade;
            $reducers[$band] = new GainReducer($setting->sampleRate);
        }
        $this->filters = $filters;
        $this->keyFilters = $keyFilters;
        $this->reducers = $reducers;
    }

    public function set(ParameterValues $values): void
    {
        $crossovers = [$values->number('low-crossover'), max($values->number('high-crossover'), 1.2 * $values->number('low-crossover'))];
        foreach (array_keys(self::BANDS) as $index => $band) {
            $sections = LinkwitzRiley::band($index, $crossovers, $this->setting->sampleRate);
            $this->filters[$band]->set($sections);
            $this->keyFilters[$band]->set($sections);
            $this->reducers[$band]->set(
                self::curve($values, $band),
                $values->number("{$band}-attack"),
                $values->number("{$band}-release"),
                $values->number("{$band}-gain"),
            );
            $this->isMuted[$band] = ! in_array($values->choice('listen'), ['all', $band], true);
        }
    }

    public function process(Block $block): void
    {
        $sidechain = $this->sidechain;
        $this->sidechain = null;
        $this->reported = 0.0;
        $bands = [];
        foreach ($this->filters as $name => $filter) {
            $band = clone $block;
            $filter->process($band);
            $heard = null;
            if ($sidechain !== null) {
                $heard = clone $sidechain;
                $this->keyFilters[$name]->process($heard);
            }
            $this->reported = max($this->reported, $this->reducers[$name]->process($band, $heard));
            if (! $this->isMuted[$name]) {
                $bands[] = $band;
            }
        }
        $silence = array_fill(0, $block->frames(), 0.0);
        $block->left = $silence;
        // Where a filter still rings of two sides, its band is wide though the block is not.
        $block->mono = array_filter($bands, static fn (Block $band): bool => ! $band->mono) === [];
        $block->right = $block->mono ? [] : $silence;
        foreach ($bands as $band) {
            $block->left = Samples::add($block->left, $band->left);
            if (! $block->mono) {
                $block->right = Samples::add($block->right, $band->right());
            }
        }
    }

    public function reset(): void
    {
        foreach ($this->reducers as $band => $reducer) {
            $reducer->reset();
            $this->filters[$band]->reset();
            $this->keyFilters[$band]->reset();
        }
        $this->reported = 0.0;
    }

    public function isSettled(): bool
    {
        return array_filter($this->reducers, static fn (GainReducer $reducer): bool => ! $reducer->isSettled()) === [];
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 10);
    }

    public function gainReduction(): float
    {
        return $this->reported;
    }

    private static function curve(ParameterValues $values, string $band): GainComputer
    {
        return new GainComputer($values->number("{$band}-threshold"), $values->number("{$band}-ratio"), 6.0);
    }
}
