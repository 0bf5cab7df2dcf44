<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Gain\GainRamp;

/** Mixes an insert's output with a dry copy of the same latency, and switches it on and off without a click. */
final class DryWet
{
    /** Length of the on/off fade in ms. */
    private const FADE = 10.0;

    private readonly GainRamp $wet;

    private readonly DelayLine $dry;

    /** Frames to wait before the fade-in, while the insert fills its delay lines. */
    private int $filling = 0;

    public function __construct(int $sampleRate, int $latency = 0)
    {
        $this->wet = new GainRamp(0.0, $sampleRate, self::FADE);
        $this->dry = new DelayLine($latency);
    }

    /** @param  ?float  $fade  ms; null is the usual time */
    public function towards(float $share, ?float $fade = null): void
    {
        $this->wet->towards($share, $fade);
    }

    /** Delays the fade-in of an insert that was idle until its delay lines are filled. */
    public function fill(int $latency): void
    {
        $this->filling = $latency;
    }

    public function resize(int $latency): void
    {
        $this->dry->resize($latency);
    }

    public function settle(): void
    {
        $this->wet->settle();
        $this->filling = 0;
    }

    public function reset(): void
    {
        $this->dry->reset();
    }

    /** Whether its share is on the way, or waits for delay lines to fill. */
    public function moving(): bool
    {
        return $this->wet->moving() || $this->filling > 0;
    }

    /** Returns whether the insert is inaudible and can be skipped. */
    public function isIdle(): bool
    {
        return $this->wet->gain() === 0.0 && ! $this->wet->moving();
    }

    /**
     * Processes a block; the insert is skipped while idle.
     *
     * @param  callable(Block): void  $work
     * @param  ?list<float>  $automation  shares it has besides, sample by sample
     */
    public function process(Block $block, callable $work, ?array $automation = null): void
    {
        if ($this->isIdle()) {
            $this->dry->process($block);

            return;
        }
        if ($automation === null && $this->wet->gain() === 1.0 && ! $this->wet->moving()) {
            if ($this->dry->length() > 0) {
                $this->dry->process(clone $block);
            }
            $work($block);

            return;
        }
        $dry = clone $block;
        $this->dry->process($dry);
        $work($block);
        $this->blend($block, $dry, $automation);
    }

    /** @param  ?list<float>  $automation */
    private function blend(Block $block, Block $dry, ?array $automation): void
    {
        if (! $block->mono || ! $dry->mono) {
            $block->widen();
            $dry->widen();
        }
        $frames = $block->frames();
        $wait = min($this->filling, $frames);
        $this->filling -= $wait;
        $gains = $wait > 0 ? [...array_fill(0, $wait, 0.0), ...$this->wet->next($frames - $wait)] : $this->wet->next($frames);
        $gains = $automation === null ? $gains : Samples::multiply($gains, $automation);
        $block->left = Samples::mix($block->left, $dry->left, $gains);
        if (! $block->mono) {
            $block->right = Samples::mix($block->right, $dry->right, $gains);
        }
    }
}
