<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Audio\WavWriter;
use Hafen\Engine\Tap;

/** What passes one tap on its way into a file. */
final class RecordedTap
{
    private float $peak = 0.0;

    private int $frames = 0;

    private ?int $firstClip = null;

    /** @var list<Block> what is not written until something that can be heard follows */
    private array $waiting = [];

    /** @param  int  $latency  samples by which sound comes late to the tap */
    public function __construct(public readonly Tap $tap, private readonly WavWriter $writer, public readonly int $latency)
    {
    }

    /** @param  float  $audible  share of the peak above which the block is heard; 0 writes it in any case */
    public function take(Block $block, float $audible): void
    {
        $highest = max(Samples::peak($block->left), $block->mono ? 0.0 : Samples::peak($block->right));
        $this->peak = max($this->peak, $highest);
        $this->waiting[] = $block;
        if ($audible === 0.0 || $highest > $this->peak * $audible) {
            $this->write();
        }
    }

    /** Writes as many frames of what waits as it takes to reach a length. */
    public function fill(int $frames): void
    {
        while ($this->frames < $frames && $this->waiting !== []) {
            $block = array_shift($this->waiting);
            $missing = min($frames - $this->frames, $block->frames());
            $this->put(new Block(array_slice($block->left, 0, $missing), array_slice($block->right, 0, $missing), $block->mono));
        }
    }

    public function frames(): int
    {
        return $this->frames;
    }

    /** Amplitude. */
    public function peak(): float
    {
        return $this->peak;
    }

    /** Whether the sound ended before the end of what was run. */
    public function hasFaded(): bool
    {
        return $this->waiting !== [];
    }

    /** Samples lost at full scale; only fixed-point files clip. */
    public function clipped(): int
    {
        return $this->writer->clipped();
    }

    /** Frame near which the first sample was lost. */
    public function firstClip(): ?int
    {
        return $this->firstClip;
    }

    private function write(): void
    {
        foreach ($this->waiting as $block) {
            $this->put($block);
        }
        $this->waiting = [];
    }

    private function put(Block $block): void
    {
        $this->writer->write($this->writer->format->channels === 1 ? [$block->mono ? $block->left : Samples::mid($block->left, $block->right)] : [$block->left, $block->right()]);
        if ($this->firstClip === null && $this->writer->clipped() > 0) {
            $this->firstClip = $this->frames;
        }
        $this->frames += $block->frames();
    }
}
