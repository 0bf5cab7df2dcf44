<?php

declare(strict_types=1);

namespace Hafen\Dsp\Reverb;

use Hafen\Dsp\Spectrum\Fft;

/**
 * Convolves two sides with an impulse response each, block after block of one length.
 *
 * Source: uniformly partitioned overlap-save (W. G. Gardner, "Efficient convolution without input-output delay", JAES 1995; T. G. Stockham 1966): the
 * spectra of the blocks heard so far are kept, multiplied with those of the response's parts, and added before one transform back.
 * Both sides go through one complex transform.
 */
final class PartitionedConvolution
{
    private readonly Fft $fft;

    /** @var list<array{list<float>, list<float>, list<float>, list<float>}> spectra of the response's parts: left and right, real and imaginary */
    private readonly array $parts;

    /** @var list<array{list<float>, list<float>, list<float>, list<float>}> spectra of the blocks heard, the newest first */
    private array $heard = [];

    /** @var list<float> the block before */
    private array $lastLeft;

    /** @var list<float> */
    private array $lastRight;

    /**
     * @param  list<float>  $left  impulse response
     * @param  list<float>  $right
     * @param  int  $block  samples, a power of two
     */
    public function __construct(array $left, array $right, private readonly int $block)
    {
        $this->fft = new Fft(2 * $block);
        $silence = array_fill(0, $block, 0.0);
        $parts = [];
        for ($at = 0, $length = max(count($left), count($right)); $at < $length; $at += $block) {
            $parts[] = $this->fft->transformTwo(
                [...array_pad(array_slice($left, $at, $block), $block, 0.0), ...$silence],
                [...array_pad(array_slice($right, $at, $block), $block, 0.0), ...$silence],
            );
        }
        $this->parts = $parts;
        $this->lastLeft = $this->lastRight = $silence;
    }

    public function reset(): void
    {
        $this->heard = [];
        $this->lastLeft = $this->lastRight = array_fill(0, $this->block, 0.0);
    }

    /**
     * @param  list<float>  $left  one block
     * @param  list<float>  $right
     * @return array{list<float>, list<float>} one block
     */
    public function process(array $left, array $right): array
    {
        array_unshift($this->heard, $this->fft->transformTwo([...$this->lastLeft, ...$left], [...$this->lastRight, ...$right]));
        if (count($this->heard) > count($this->parts)) {
            array_pop($this->heard);
        }
        $this->lastLeft = $left;
        $this->lastRight = $right;
        $bins = $this->block + 1;
        $leftRe = $leftIm = $rightRe = $rightIm = array_fill(0, $bins, 0.0);
        foreach ($this->heard as $k => [$xLeftRe, $xLeftIm, $xRightRe, $xRightIm]) {
            [$hLeftRe, $hLeftIm, $hRightRe, $hRightIm] = $this->parts[$k];
            [$leftRe, $leftIm] = self::accumulate($leftRe, $leftIm, $xLeftRe, $xLeftIm, $hLeftRe, $hLeftIm);
            [$rightRe, $rightIm] = self::accumulate($rightRe, $rightIm, $xRightRe, $xRightIm, $hRightRe, $hRightIm);
        }

        return $this->back($leftRe, $leftIm, $rightRe, $rightIm);
    }

    /**
     * @param  list<float>  $re
     * @param  list<float>  $im
     * @param  list<float>  $xRe
     * @param  list<float>  $xIm
     * @param  list<float>  $hRe
     * @param  list<float>  $hIm
     * @return array{list<float>, list<float>}
     */
    private static function accumulate(array $re, array $im, array $xRe, array $xIm, array $hRe, array $hIm): array
    {
        for ($k = 0, $n = count($re); $k < $n; ++$k) {
            $a = $xRe[$k];
            $b = $xIm[$k];
            $c = $hRe[$k];
            $d = $hIm[$k];
            $re[$k] += $a * $c - $b * $d;
            $im[$k] += $a * $d + $b * $c;
        }

        return [$re, $im];
    }

    /**
     * @param  list<float>  $leftRe
     * @param  list<float>  $leftIm
     * @param  list<float>  $rightRe
     * @param  list<float>  $rightIm
     * @return array{list<float>, list<float>}
     */
    private function back(array $leftRe, array $leftIm, array $rightRe, array $rightIm): array
    {
        $block = $this->block;
        $re = $im = [];
        for ($k = 0; $k <= $block; ++$k) {
            $re[] = $leftRe[$k] - $rightIm[$k];
            $im[] = $leftIm[$k] + $rightRe[$k];
        }
        for ($k = $block - 1; $k > 0; --$k) {
            $re[] = $leftRe[$k] + $rightIm[$k];
            $im[] = $rightRe[$k] - $leftIm[$k];
        }
        // The transform back is the one there with real and imaginary parts swapped.
        [$right, $left] = $this->fft->transform($im, $re);
        $scale = 0.5 / $block;
        $outLeft = $outRight = [];
        for ($i = $block, $n = 2 * $block; $i < $n; ++$i) {
            $outLeft[] = $scale * $left[$i];
            $outRight[] = $scale * $right[$i];
        }

        return [$outLeft, $outRight];
    }
}
