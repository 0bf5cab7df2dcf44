<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\Butterworth;
use Hafen\Dsp\Filter\QuarterRate;

/**
 * The spectrum up to {@see HIGHEST}, where low end and mud are told from what a channel is for, finely and at a small part of
 * what the whole spectrum costs: its rate is quartered as often as it goes, then it is filtered, and one sample in so many is looked at.
 *
 * What is folded back into the range lies 60 dB lower.
 */
final class LowSpectrumMeter
{
    /** Hz up to which the spectrum is true. */
    public const HIGHEST = 600.0;

    /** Rate in Hz at which the sound is looked at, about. */
    private const RATE = 3000.0;

    private const SIZE = 512;

    /** Hz below which the rate is not brought: what would be folded back must lie far above {@see HIGHEST}. */
    private const LEAST_RATE = 10_000.0;

    /** @var list<QuarterRate> one after the other */
    private array $left = [];

    /** @var list<QuarterRate> */
    private array $right = [];

    private readonly BiquadCascade $filter;

    private readonly SpectrumMeter $meter;

    /** One sample in so many of those that are left after that. */
    private readonly int $every;

    private int $skip = 0;

    public function __construct(private readonly int $sampleRate)
    {
        for ($rate = (float) $sampleRate; $rate >= 4.0 * self::LEAST_RATE; $rate /= 4.0) {
            $this->left[] = new QuarterRate;
            $this->right[] = new QuarterRate;
        }
        $this->every = max(1, (int) round($rate / self::RATE));
        $this->filter = new BiquadCascade;
        if ($this->every > 1) {
            $sections = [];
            // Only the share of the rate counts, so that the rate need not be whole.
            foreach (Butterworth::lowPass(0.3 * $sampleRate / $this->every, 8, $sampleRate) as $i => $section) {
                $sections["low-pass-{$i}"] = $section;
            }
            $this->filter->set($sections);
        }
        $this->meter = new SpectrumMeter($rate / $this->every, self::SIZE);
    }

    /** How many of so many samples it looks at, at most. */
    public function picked(int $frames): int
    {
        return intdiv($frames, $this->every * 4 ** count($this->left)) + 1;
    }

    /** Measures a block without changing it; returns the samples it analyses. */
    public function measure(Block $block): Block
    {
        $low = $this->quartered($block);
        $this->filter->process($low);
        $left = self::thinned($low->left, $this->skip, $this->every);
        $picked = new Block($left, $low->mono ? [] : self::thinned($low->right, $this->skip, $this->every), $low->mono);
        $this->skip += count($left) * $this->every - $low->frames();
        $this->meter->measure($picked);

        return $picked;
    }

    public function read(): Spectrum
    {
        $spectrum = $this->meter->read();
        $bins = (int) (self::HIGHEST / $spectrum->binWidth) + 1;
        // What {@see QuarterRate} takes from the top of the range.
        $flat = [];
        foreach (array_keys(array_slice($spectrum->left, 0, $bins)) as $bin) {
            $gain = 1.0;
            foreach (array_keys($this->left) as $times) {
                $gain *= QuarterRate::gain($bin * $spectrum->binWidth * 4 ** $times / $this->sampleRate);
            }
            $flat[] = 1.0 / ($gain * $gain);
        }

        return new Spectrum($spectrum->binWidth, Samples::multiply(array_slice($spectrum->left, 0, $bins), $flat), Samples::multiply(array_slice($spectrum->right, 0, $bins), $flat));
    }

    private function quartered(Block $block): Block
    {
        $left = $block->left;
        foreach ($this->left as $quarter) {
            $left = $quarter->process($left);
        }
        if ($block->mono) {
            $this->right = array_map(static fn (QuarterRate $quarter): QuarterRate => clone $quarter, $this->left);

            return Block::mono($left);
        }
        $right = $block->right;
        foreach ($this->right as $quarter) {
            $right = $quarter->process($right);
        }

        return new Block($left, $right);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function thinned(array $samples, int $first, int $every): array
    {
        $thin = [];
        for ($i = $first, $n = count($samples); $i < $n; $i += $every) {
            $thin[] = $samples[$i];
        }

        return $thin;
    }
}
