<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\Butterworth;

/**
 * The spectrum up to {@see HIGHEST}, where low end and mud are told from what a channel is for, finely and at a small part of
 * what the whole spectrum costs: the sound is filtered, and one sample in so many is looked at.
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

    private readonly BiquadCascade $filter;

    private readonly SpectrumMeter $meter;

    private readonly int $every;

    private int $skip = 0;

    public function __construct(int $sampleRate)
    {
        $this->every = max(1, (int) round($sampleRate / self::RATE));
        $this->filter = new BiquadCascade;
        if ($this->every > 1) {
            $sections = [];
            foreach (Butterworth::lowPass(0.3 * $sampleRate / $this->every, 8, $sampleRate) as $i => $section) {
                $sections["low-pass-{$i}"] = $section;
            }
            $this->filter->set($sections);
        }
        $this->meter = new SpectrumMeter($sampleRate / $this->every, self::SIZE);
    }

    /** How many of so many samples it looks at, at most. */
    public function picked(int $frames): int
    {
        return intdiv($frames, $this->every) + 1;
    }

    /** Measures a block without changing it; returns the samples it analyses. */
    public function measure(Block $block): Block
    {
        $low = clone $block;
        $this->filter->process($low);
        $left = self::thinned($low->left, $this->skip, $this->every);
        $picked = new Block($left, $low->mono ? [] : self::thinned($low->right, $this->skip, $this->every), $low->mono);
        $this->skip += count($left) * $this->every - $block->frames();
        $this->meter->measure($picked);

        return $picked;
    }

    public function read(): Spectrum
    {
        $spectrum = $this->meter->read();
        $bins = (int) (self::HIGHEST / $spectrum->binWidth) + 1;

        return new Spectrum($spectrum->binWidth, array_slice($spectrum->left, 0, $bins), array_slice($spectrum->right, 0, $bins));
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
