<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Spectrum\Fft;
use Hafen\Dsp\Spectrum\HannWindow;

/**
 * Cuts what passes into Hann windows that overlap by half, and gives the power spectrum of each.
 *
 * Both sides go through one transform, as its real and its imaginary part. The first window begins with half a window of silence,
 * so that the beginning counts as much as the rest. Source: Welch, IEEE Trans. Audio Electroacoust. 1967.
 */
final class PowerWindows
{
    private readonly Fft $fft;

    /** @var list<float> */
    private readonly array $window;

    /** @var list<float> */
    private array $left;

    /** @var list<float> */
    private array $right;

    /** @param  int  $size  samples, a power of two */
    public function __construct(public readonly int $size)
    {
        $this->fft = new Fft($size);
        $this->window = HannWindow::of($size);
        $this->left = $this->right = array_fill(0, intdiv($size, 2), 0.0);
    }

    /**
     * Measures a block without changing it.
     *
     * @return list<array{list<float>, list<float>}> squared amplitude of the bins 0 to `size`/2 of the left and the right side, not
     *                                               scaled, of each window that became whole
     */
    public function take(Block $block): array
    {
        array_push($this->left, ...$block->left);
        array_push($this->right, ...$block->right());
        $powers = [];
        while (count($this->left) >= $this->size) {
            $powers[] = $this->transform(array_slice($this->left, 0, $this->size), array_slice($this->right, 0, $this->size));
            $this->left = array_slice($this->left, intdiv($this->size, 2));
            $this->right = array_slice($this->right, intdiv($this->size, 2));
        }

        return $powers;
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @return array{list<float>, list<float>}
     */
    private function transform(array $left, array $right): array
    {
        if (Samples::peak($left) === 0.0 && Samples::peak($right) === 0.0) {
            $none = array_fill(0, intdiv($this->size, 2) + 1, 0.0);

            return [$none, $none];
        }
        [$lr, $li, $rr, $ri] = $this->fft->transformTwo(Samples::multiply($left, $this->window), Samples::multiply($right, $this->window));
        $leftPower = $rightPower = [];
        for ($i = 0, $n = count($lr); $i < $n; ++$i) {
            $leftPower[] = $lr[$i] * $lr[$i] + $li[$i] * $li[$i];
            $rightPower[] = $rr[$i] * $rr[$i] + $ri[$i] * $ri[$i];
        }

        return [$leftPower, $rightPower];
    }
}
