<?php

declare(strict_types=1);

namespace Hafen\Dsp\Spectrum;

use InvalidArgumentException;

/**
 * The discrete Fourier transform of a fixed power-of-two length, of complex samples.
 *
 * Source: Cooley & Tukey 1965, radix 4 (after one step of radix 2 where the length is no power of four), decimation in time. Two real signals go through at once as the real and the
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

    /** Whether the length is no power of four. */
    private bool $isOdd;

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
        $this->isOdd = (int) round(log($size, 2)) % 2 === 1;
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
        $quarter = 1;
        if ($this->isOdd) {
            for ($i = 0; $i < $n; $i += 2) {
                $x = $re[$i + 1];
                $y = $im[$i + 1];
                $re[$i + 1] = $re[$i] - $x;
                $im[$i + 1] = $im[$i] - $y;
                $re[$i] += $x;
                $im[$i] += $y;
            }
            $quarter = 2;
        }
        // Two steps of radix 2 at once: half as often to the lists and back.
        for (; $quarter < $n; $quarter <<= 2) {
            $step = intdiv($n, 4 * $quarter);
            for ($k = 0, $w = 0; $k < $quarter; ++$k, $w += $step) {
                $c = $cosines[2 * $w];
                $s = $sines[2 * $w];
                $d = $cosines[$w];
                $t = $sines[$w];
                for ($i = $k; $i < $n; $i += 4 * $quarter) {
                    $j = $i + $quarter;
                    $l = $j + $quarter;
                    $m = $l + $quarter;
                    $x = $re[$j];
                    $y = $im[$j];
                    $br = $c * $x - $s * $y;
                    $bi = $c * $y + $s * $x;
                    $x = $re[$m];
                    $y = $im[$m];
                    $dr = $c * $x - $s * $y;
                    $di = $c * $y + $s * $x;
                    $x = $re[$l];
                    $y = $im[$l];
                    $cr = $x + $dr;
                    $ci = $y + $di;
                    $dr = $x - $dr;
                    $di = $y - $di;
                    $x = $d * $cr - $t * $ci;
                    $ci = $d * $ci + $t * $cr;
                    $cr = $x;
                    // The other factor is this one, a quarter of a turn on.
                    $x = $d * $di + $t * $dr;
                    $di = $t * $di - $d * $dr;
                    $dr = $x;
                    $x = $re[$i];
                    $y = $im[$i];
                    $ar = $x + $br;
                    $ai = $y + $bi;
                    $br = $x - $br;
                    $bi = $y - $bi;
                    $re[$i] = $ar + $cr;
                    $im[$i] = $ai + $ci;
                    $re[$l] = $ar - $cr;
                    $im[$l] = $ai - $ci;
                    $re[$j] = $br + $dr;
                    $im[$j] = $bi + $di;
                    $re[$m] = $br - $dr;
                    $im[$m] = $bi - $di;
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
