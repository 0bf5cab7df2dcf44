<?php

declare(strict_types=1);

namespace Hafen\Dsp\Spectrum;

use InvalidArgumentException;

/**
 * The discrete Fourier transform of a fixed power-of-two length, of complex samples.
 *
 * Source: Cooley & Tukey 1965, radix 2, decimation in time. Two real signals go through at once as the real and the
 * imaginary part.
 */
final readonly class Fft
{
    /** @var list<int> */
    private array $order;

    /** @var list<float> */
    private array $cosines;

    /** @var list<float> */
    private array $sines;

    public function __construct(public int $size)
    {
        if ($size < 2 || ($size & ($size - 1)) !== 0) {
            throw new InvalidArgumentException("A transform of {$size} samples is not a power of two.");
        }
        $order = $cosines = $sines = [];
        for ($i = 0, $bit = $size >> 1, $j = 0; $i < $size; ++$i) {
            $order[] = $j;
            for ($bit = $size >> 1; $bit > 0 && ($j & $bit) !== 0; $bit >>= 1) {
                $j ^= $bit;
            }
            $j |= $bit;
        }
        for ($i = 0; $i < $size >> 1; ++$i) {
            $cosines[] = cos(2.0 * M_PI * $i / $size);
            $sines[] = -sin(2.0 * M_PI * $i / $size);
        }
        $this->order = $order;
        $this->cosines = $cosines;
        $this->sines = $sines;
    }

    /**
     * @param  list<float>  $real  `size` samples
     * @param  list<float>  $imaginary  as many
     * @return array{list<float>, list<float>} real and imaginary parts of the bins, not scaled
     */
    public function transform(array $real, array $imaginary): array
    {
        $re = $im = [];
        foreach ($this->order as $j) {
            $re[] = $real[$j];
            $im[] = $imaginary[$j];
        }
        $n = $this->size;
        $cosines = $this->cosines;
        $sines = $this->sines;
        for ($half = 1; $half < $n; $half <<= 1) {
            $step = intdiv($n, 2 * $half);
            for ($k = 0, $w = 0; $k < $half; ++$k, $w += $step) {
                $c = $cosines[$w];
                $s = $sines[$w];
                for ($i = $k; $i < $n; $i += 2 * $half) {
                    $j = $i + $half;
                    $x = $re[$j];
                    $y = $im[$j];
                    $tr = $c * $x - $s * $y;
                    $ti = $c * $y + $s * $x;
                    $x = $re[$i];
                    $y = $im[$i];
                    $re[$j] = $x - $tr;
                    $im[$j] = $y - $ti;
                    $re[$i] = $x + $tr;
                    $im[$i] = $y + $ti;
                }
            }
        }

        return [$re, $im];
    }

    /**
     * The spectra of two real sounds, through one transform.
     *
     * @param  list<float>  $left  `size` samples
     * @param  list<float>  $right  as many
     * @return array{list<float>, list<float>, list<float>, list<float>} real and imaginary parts of the left and of the right one, bins 0 to
     *                                                                   `size`/2, not scaled
     */
    public function transformTwo(array $left, array $right): array
    {
        [$re, $im] = $this->transform($left, $right);
        $leftRe = $leftIm = $rightRe = $rightIm = [];
        for ($k = 0, $half = $this->size >> 1, $last = $this->size - 1; $k <= $half; ++$k) {
            $j = ($last + 1 - $k) & $last;
            // What is even belongs to the real part that went in, what is odd to the imaginary one.
            $leftRe[] = 0.5 * ($re[$k] + $re[$j]);
            $leftIm[] = 0.5 * ($im[$k] - $im[$j]);
            $rightRe[] = 0.5 * ($im[$k] + $im[$j]);
            $rightIm[] = 0.5 * ($re[$j] - $re[$k]);
        }

        return [$leftRe, $leftIm, $rightRe, $rightIm];
    }
}
