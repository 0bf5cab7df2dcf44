<?php

declare(strict_types=1);

namespace Hafen\Dsp\Gain;

use Hafen\Audio\Block;

/** A gain for each side, moving to its target without a click. While both are the same a mono block stays mono. */
final class StereoGain
{
    private readonly GainRamp $left;

    private readonly GainRamp $right;

    public function __construct(float $gain, int $sampleRate, float $milliseconds = 20.0)
    {
        $this->left = new GainRamp($gain, $sampleRate, $milliseconds);
        $this->right = new GainRamp($gain, $sampleRate, $milliseconds);
    }

    /** @param  ?float  $milliseconds  of this way; null is the usual time */
    public function towards(float $left, float $right, ?float $milliseconds = null): void
    {
        $this->left->towards($left, $milliseconds);
        $this->right->towards($right, $milliseconds);
    }

    /** Goes to the target at once. */
    public function settle(): void
    {
        $this->left->settle();
        $this->right->settle();
    }

    public function moving(): bool
    {
        return $this->left->moving() || $this->right->moving();
    }

    public function process(Block $block): void
    {
        if ($this->isOneGain()) {
            // Both ramps walk the same way; the right one only has to keep up.
            if ($this->left->moving()) {
                $this->right->next($block->frames());
            }
            $this->left->process($block);

            return;
        }
        $block->widen();
        $left = Block::mono($block->left);
        $right = Block::mono($block->right);
        $block->left = $block->right = [];
        $this->left->process($left);
        $this->right->process($right);
        $block->left = $left->left;
        $block->right = $right->left;
    }

    /**
     * Both sides of a block and the gains they are still to have. The block is left as it is.
     *
     * @return array{array{list<float>, float}, ?array{list<float>, float}} left, right; null where it is the same
     */
    public function parts(Block $block): array
    {
        if ($this->moving()) {
            $block = clone $block;
            $this->process($block);

            return [[$block->left, 1.0], $block->mono ? null : [$block->right, 1.0]];
        }
        $left = $this->left->gain();
        $right = $this->right->gain();

        return [[$block->left, $left], $block->mono && $left === $right ? null : [$block->right(), $right]];
    }

    private function isOneGain(): bool
    {
        return $this->left->gain() === $this->right->gain() && $this->left->target() === $this->right->target();
    }
}
