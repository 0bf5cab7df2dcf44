<?php

declare(strict_types=1);

namespace Hafen\Dsp\Filter;

use Hafen\Audio\Samples;

/**
 * Bells side by side whose sum goes through the gains wanted at their centres, although each reaches into its neighbours.
 *
 * Source: V. Välimäki, J. Liski, "Accurate cascade graphic equalizer", IEEE Signal Processing Letters 2017: the gains of the
 * bells are found by least squares from how much of each arrives at every centre and half way between; here the remainder is
 * taken away in further rounds, because a bell's shape changes with its gain. Between the centres the curve wanted is a
 * straight line over the logarithm of frequency.
 */
final class GraphicBands
{
    private const ROUNDS = 4;

    /** dB at which the shapes of the bells are taken for least squares. */
    private const PROTOTYPE = 9.0;

    /** dB between the gains at which shapes are kept. */
    private const GRID = 3.0;

    /** Shapes are kept for gains from minus to plus this many steps of the grid. */
    private const REACH = 10;

    /** @var list<list<list<float>>> dB of each band at each gain of the grid, at each point */
    private readonly array $shapes;

    /** @var list<list<float>> least squares: gain of each band for one dB wanted at each point */
    private readonly array $solution;

    /** @var array<string, self> */
    private static array $made = [];

    /**
     * @param  list<float>  $centres  Hz, rising
     * @param  float  $octaves  between the frequencies where one bell has half its dB
     */
    public static function of(array $centres, float $octaves, int $sampleRate): self
    {
        return self::$made[implode(',', $centres)."/{$octaves}/{$sampleRate}"] ??= new self($centres, $octaves, $sampleRate);
    }

    /** @param  list<float>  $centres */
    private function __construct(private readonly array $centres, private readonly float $octaves, private readonly int $sampleRate)
    {
        $points = [];
        foreach ($centres as $i => $centre) {
            if ($i > 0) {
                $points[] = sqrt($centres[$i - 1] * $centre);
            }
            $points[] = $centre;
        }
        $shapes = [];
        foreach ($centres as $band => $centre) {
            foreach (range(-self::REACH, self::REACH) as $step) {
                $section = $this->section($band, self::GRID * $step);
                $shapes[$band][] = array_map(static fn (float $point): float => 20.0 * log10($section->magnitude($point, $sampleRate)), $points);
            }
        }
        $this->shapes = $shapes;
        $matrix = [];
        foreach (array_keys($centres) as $band) {
            $shape = $shapes[$band][self::REACH + (int) (self::PROTOTYPE / self::GRID)];
            $matrix[] = array_map(static fn (float $level): float => $level / self::PROTOTYPE, $shape);
        }
        $this->solution = self::leastSquares($matrix, array_map(static fn (int $point): float => $point % 2 === 0 ? 1.0 : 0.4, array_keys($points)));
    }

    /**
     * @param  list<float>  $wanted  dB at each centre
     * @return array<string, BiquadCoefficients> sections by band; a band that does nothing has none
     */
    public function sections(array $wanted): array
    {
        $sections = [];
        foreach ($this->gains($wanted) as $band => $gain) {
            if (abs($gain) >= 0.01) {
                $sections["band {$band}"] = $this->section($band, $gain);
            }
        }

        return $sections;
    }

    /**
     * @param  list<float>  $wanted
     * @return list<float> dB of each bell
     */
    private function gains(array $wanted): array
    {
        $gains = array_fill(0, count($wanted), 0.0);
        if ($wanted === $gains) {
            return $gains;
        }
        $target = [];
        foreach ($wanted as $i => $gain) {
            if ($i > 0) {
                $target[] = 0.5 * ($wanted[$i - 1] + $gain);
            }
            $target[] = $gain;
        }
        $limit = self::GRID * self::REACH - 0.001;
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $left = $target;
            foreach ($gains as $band => $gain) {
                $gridPosition = $gain / self::GRID + self::REACH;
                $low = (int) $gridPosition;
                $part = $gridPosition - $low;
                $a = $this->shapes[$band][$low];
                $b = $this->shapes[$band][$low + 1];
                for ($i = 0, $n = count($left); $i < $n; ++$i) {
                    $left[$i] -= $a[$i] + $part * ($b[$i] - $a[$i]);
                }
            }
            foreach ($this->solution as $band => $row) {
                $gains[$band] = min($limit, max(-$limit, $gains[$band] + Samples::product($row, array_values($left))));
            }
        }

        return $gains;
    }

    private function section(int $band, float $gain): BiquadCoefficients
    {
        // The cookbook's bandwidth in octaves, with its correction for what the bilinear transform narrows near half the rate.
        $angle = 2.0 * M_PI * $this->centres[$band] / $this->sampleRate;
        $q = 0.5 / sinh(0.5 * M_LN2 * $this->octaves * $angle / sin($angle));

        return BiquadCoefficients::peaking($this->centres[$band], $q, $gain, $this->sampleRate);
    }

    /**
     * The rows that give each band's gain from the levels wanted, by the normal equations and Gauss-Jordan elimination.
     *
     * @param  list<list<float>>  $matrix  dB at each point for one dB of each band
     * @param  list<float>  $weights  of the points
     * @return list<list<float>>
     */
    private static function leastSquares(array $matrix, array $weights): array
    {
        $bands = count($matrix);
        $weighted = array_map(static fn (array $row): array => array_map(static fn (float $x, float $w): float => $x * $w, $row, $weights), $matrix);
        $normal = [];
        foreach ($weighted as $i => $row) {
            foreach ($matrix as $j => $other) {
                $normal[$i][$j] = Samples::product($row, $other);
            }
        }
        for ($pivot = 0; $pivot < $bands; ++$pivot) {
            $scale = 1.0 / $normal[$pivot][$pivot];
            $normal[$pivot] = array_map(static fn (float $x): float => $x * $scale, $normal[$pivot]);
            $weighted[$pivot] = array_map(static fn (float $x): float => $x * $scale, $weighted[$pivot]);
            for ($row = 0; $row < $bands; ++$row) {
                $factor = $normal[$row][$pivot];
                if ($row !== $pivot && $factor !== 0.0) {
                    $normal[$row] = array_map(static fn (float $x, float $y): float => $x - $factor * $y, $normal[$row], $normal[$pivot]);
                    $weighted[$row] = array_map(static fn (float $x, float $y): float => $x - $factor * $y, $weighted[$row], $weighted[$pivot]);
                }
            }
        }

        return $weighted;
    }
}
