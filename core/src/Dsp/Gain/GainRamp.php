<?php

declare(strict_types=1);

namespace Hafen\Dsp\Gain;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/**
 * A gain that moves to its target over about 20 ms, or longer, sample by sample, so that a moved control does not click.
 *
 * The way is a straight line in amplitude. How it is cut into blocks does not matter.
 */
final class GainRamp
{
    private float $gain;

    private float $target;

    private float $step = 0.0;

    private int $left = 0;

    private readonly int $length;

    public function __construct(float $gain, private readonly int $sampleRate, float $milliseconds = 20.0)
    {
        $this->gain = $this->target = $gain;
        $this->length = max(1, (int) round($sampleRate * $milliseconds / 1000.0));
    }

    /** Samples after which a processor is set again while its values move. */
    public const STEP = 64;

    /** A gain that is set again and again on its way, and only goes straight from one to the next. */
    public static function betweenSteps(float $gain, int $sampleRate): self
    {
        return new self($gain, $sampleRate, 1000.0 * self::STEP / $sampleRate);
    }

    /** @param  ?float  $milliseconds  of this way; null is the usual time */
    public function towards(float $target, ?float $milliseconds = null): void
    {
        if ($target === $this->target) {
            return;
        }
        $this->target = $target;
        $this->left = $milliseconds === null ? $this->length : max($this->length, (int) round($this->sampleRate * $milliseconds / 1000.0));
        $this->step = ($target - $this->gain) / $this->left;
    }

    /** Goes to the target at once. */
    public function settle(): void
    {
        $this->gain = $this->target;
        $this->left = 0;
    }

    public function moving(): bool
    {
        return $this->left > 0;
    }

    /** The gain now. */
    public function gain(): float
    {
        return $this->gain;
    }

    public function target(): float
    {
        return $this->target;
    }

    public function process(Block $block): void
    {
        if ($this->left === 0 && $this->gain === 1.0) {
            return;
        }
        $samples = $block->left;
        $block->left = [];
        if ($this->left === 0) {
            $block->left = Samples::scale($samples, $this->gain);
            if (! $block->mono) {
                $samples = $block->right;
                $block->right = [];
                $block->right = Samples::scale($samples, $this->gain);
            }

            return;
        }
        $gains = $this->next(count($samples));
        $block->left = Samples::multiply($samples, $gains);
        if (! $block->mono) {
            $samples = $block->right;
            $block->right = [];
            $block->right = Samples::multiply($samples, $gains);
        }
    }

    /**
     * The gains of the next frames, moving on.
     *
     * @return list<float>
     */
    public function next(int $frames): array
    {
        $gains = [];
        for ($i = 0; $i < $frames; ++$i) {
            if ($this->left > 0) {
                --$this->left;
                $this->gain = $this->left === 0 ? $this->target : $this->gain + $this->step;
            }
            $gains[] = $this->gain;
        }

        return $gains;
    }
}
