<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Fft;

/**
 * Averages the spectrum of what passes, over Hann windows that overlap by half.
 *
 * Both sides go through one transform, as its real and its imaginary part.
 * Source: Welch, IEEE Trans. Audio Electroacoust. 1967.
 */
final class SpectrumMeter
{
    private readonly Fft $fft;

    /** @var list<float> */
    private readonly array $window;

    /** @var list<float> */
    private array $left;

    /** @var list<float> */
    private array $right;

    /** @var list<float> */
    private array $sumLeft;

    /** @var list<float> */
    private array $sumRight;

    private int $frames = 0;

    public function __construct(private readonly float $sampleRate, private readonly int $size = 4096)
    {
        $this->fft = new Fft($size);
        $window = [];
        for ($i = 0; $i < $size; ++$i) {
            $window[] = 0.5 - 0.5 * cos(2.0 * M_PI * ($i + 0.5) / $size);
        }
        $this->window = $window;
        // Half a window of silence comes first, so that the beginning counts as much as the rest.
        $this->left = $this->right = array_fill(0, intdiv($size, 2), 0.0);
        $this->sumLeft = $this->sumRight = array_fill(0, intdiv($size, 2) + 1, 0.0);
    }

    /** Takes in a block, which is left as it is. */
    public function measure(Block $block): void
    {
        $this->frames += $block->frames();
        array_push($this->left, ...$block->left);
        array_push($this->right, ...$block->right());
        while (count($this->left) >= $this->size) {
            $this->transform(array_slice($this->left, 0, $this->size), array_slice($this->right, 0, $this->size));
            $this->left = array_slice($this->left, intdiv($this->size, 2));
            $this->right = array_slice($this->right, intdiv($this->size, 2));
        }
    }

    /** What came so far; the last part of a window is filled up with silence. */
    public function read(): Spectrum
    {
        $rest = clone $this;
        $rest->measure(Block::mono(array_fill(0, $this->size, 0.0)));
        if ($this->frames === 0) {
            return Spectrum::silence();
        }
        // The mean square of a Hann window is 3/8, and each sample is in two; of a real signal half of the power lies at
        // negative frequencies.
        $scale = 2.0 / (0.75 * $this->size * $this->frames);
        $scaled = static fn (float $power): float => $power * $scale;
        $left = array_map($scaled, $rest->sumLeft);
        $right = array_map($scaled, $rest->sumRight);
        foreach ([0, intdiv($this->size, 2)] as $single) {
            $left[$single] *= 0.5;
            $right[$single] *= 0.5;
        }

        return new Spectrum($this->sampleRate / $this->size, array_values($left), array_values($right));
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     */
    private function transform(array $left, array $right): void
    {
        [$re, $im] = $this->fft->transform(Samples::multiply($left, $this->window), Samples::multiply($right, $this->window));
        $last = $this->size - 1;
        for ($i = 0, $n = intdiv($this->size, 2); $i <= $n; ++$i) {
            $j = ($last + 1 - $i) & $last;
            // The even part of the real and the odd part of the imaginary spectrum are the left side's, the others the right's.
            $a = $re[$i] + $re[$j];
            $b = $im[$i] - $im[$j];
            $c = $im[$i] + $im[$j];
            $d = $re[$j] - $re[$i];
            $this->sumLeft[$i] += 0.25 * ($a * $a + $b * $b);
            $this->sumRight[$i] += 0.25 * ($c * $c + $d * $d);
        }
    }
}
