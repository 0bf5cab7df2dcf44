<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Audio\WavWriter;

/** What passes one tap, or a sum of taps, on its way into a file. */
final class RecordedTap
{
    private float $peak = 0.0;

    private int $frames = 0;

    private int $taken = 0;

    private ?int $firstClip = null;

    /** @var list<Block> what is not written until something that can be heard follows */
    private array $waiting = [];

    public function __construct(private readonly WavWriter $writer)
    {
    }

    /** @param  float  $audible  share of the peak above which the block is heard; 0 writes it in any case */
    public function take(Block $block, float $audible): void
    {
        $highest = max(Samples::peak($block->left), $block->mono ? 0.0 : Samples::peak($block->right));
        $this->peak = max($this->peak, $highest);
        $this->taken += $block->frames();
        $this->waiting[] = $block;
        if ($audible === 0.0 || $highest > $this->peak * $audible) {
            $this->write();
        }
    }

    /** Frames it was given, those that wait included. */
    public function taken(): int
    {
        return $this->taken;
    }

    /** Writes as many frames as it takes to reach a length: of what waits, then silence. */
    public function fill(int $frames): void
    {
        while ($this->frames < $frames && $this->waiting !== []) {
            $block = array_shift($this->waiting);
            $missing = min($frames - $this->frames, $block->frames());
            $this->put(new Block(array_slice($block->left, 0, $missing), array_slice($block->right, 0, $missing), $block->mono));
        }
        while ($this->frames < $frames) {
            $this->put(Block::silence(min(4096, $frames - $this->frames)));
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
