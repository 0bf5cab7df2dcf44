<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Dsp\Filter\BiquadCoefficients;

/** Weights of the bins of a power spectrum within a band. */
final readonly class BandWeights
{
    /**
     * @param  int  $first  the first bin that belongs to it
     * @param  list<float>  $weights  from 0 to 1 of it and the bins that follow
     */
    private function __construct(public int $first, public array $weights)
    {
    }

    /**
     * The bins between two frequencies, at the edges the part that lies inside.
     *
     * @param  float  $binWidth  Hz
     * @param  int  $bins  in all
     */
    public static function between(float $from, float $to, float $binWidth, int $bins): self
    {
        $first = max(0, min($bins - 1, (int) floor($from / $binWidth + 0.5)));
        $weights = [];
        for ($bin = $first; $bin < $bins && ($bin - 0.5) * $binWidth < $to; ++$bin) {
            $inside = min($to, ($bin + 0.5) * $binWidth) - max($from, ($bin - 0.5) * $binWidth);
            $weights[] = max(0.0, $inside / $binWidth);
        }

        return new self($first, $weights);
    }

    /** Weights of a filter's power response. */
    public static function through(BiquadCoefficients $filter, int $sampleRate, float $binWidth, int $bins): self
    {
        $weights = [];
        for ($bin = 0; $bin < $bins; ++$bin) {
            $weights[] = $filter->magnitude($bin * $binWidth, $sampleRate) ** 2;
        }

        return new self(0, $weights);
    }

    /**
     * The sum of a power spectrum over the band.
     *
     * @param  list<float>  $powers
     */
    public function of(array $powers): float
    {
        $sum = 0.0;
        $first = $this->first;
        $weights = $this->weights;
        for ($i = 0, $n = count($weights); $i < $n; ++$i) {
            $sum += $weights[$i] * $powers[$first + $i];
        }

        return $sum;
    }
}
