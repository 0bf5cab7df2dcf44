<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Spectrum\HannWindow;

/** Averages the spectrum of what passes over all its {@see PowerWindows}. */
final class SpectrumMeter
{
    private PowerWindows $windows;

    /** @var list<float> */
    private array $left;

    /** @var list<float> */
    private array $right;

    private int $frames = 0;

    public function __construct(private readonly float $sampleRate, private readonly int $size = 4096)
    {
        $this->windows = new PowerWindows($size);
        $this->left = $this->right = array_fill(0, intdiv($size, 2) + 1, 0.0);
    }

    public function __clone()
    {
        $this->windows = clone $this->windows;
    }

    /** Measures a block without changing it. */
    public function measure(Block $block): void
    {
        $this->frames += $block->frames();
        foreach ($this->windows->take($block) as [$left, $right]) {
            $this->left = Samples::add($this->left, $left);
            $this->right = Samples::add($this->right, $right);
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
        // Each sample is in two windows; of a real signal half of the power lies at negative frequencies.
        $scale = 2.0 / (2.0 * HannWindow::MEAN_SQUARE * $this->size * $this->frames);
        $scaled = static fn (float $power): float => $power * $scale;
        $left = array_map($scaled, $rest->left);
        $right = array_map($scaled, $rest->right);
        foreach ([0, intdiv($this->size, 2)] as $single) {
            $left[$single] *= 0.5;
            $right[$single] *= 0.5;
        }

        return new Spectrum($this->sampleRate / $this->size, array_values($left), array_values($right));
    }
}
