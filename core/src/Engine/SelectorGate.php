<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Closure;
use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Gain\GainRamp;
use Hafen\Session\Insert\SelectorFade;
use Hafen\Session\Insert\SelectorRange;

/** Lets sound into a branch while the selector of its split stands in the range of the branch. */
final class SelectorGate
{
    private readonly GainRamp $still;

    private readonly GainAutomation $moving;

    /** Latency at the gate in samples. */
    private int $inputLatency = 0;

    public function __construct(int $sampleRate)
    {
        $this->still = new GainRamp(1.0, $sampleRate);
        $this->moving = new GainAutomation($sampleRate);
    }

    /**
     * @param  float  $place  where the selector stands, 0 to 1
     * @param  ?Closure(int): float  $moved  where it stands at a sample of the session; null where it does not move
     * @param  ?SelectorRange  $range  null is open everywhere
     * @param  ?float  $fade  ms in which a change is reached; null is the usual time
     */
    public function configure(?SelectorRange $range, float $place, ?Closure $moved, SelectorFade $law, int $inputLatency, ?float $fade): void
    {
        $this->inputLatency = $inputLatency;
        $this->still->towards($range === null || $moved !== null ? 1.0 : $range->gain($place, $law), $fade);
        $this->moving->follow($range === null || $moved === null ? null : static fn (int $at): float => $range->gain($moved($at), $law));
    }

    public function settle(): void
    {
        $this->still->settle();
        $this->moving->settle();
    }

    public function isSettled(): bool
    {
        return ! $this->still->moving() && $this->moving->isIdle();
    }

    /** @return bool whether anything passes; notes pass in any case, so that none stays down */
    public function process(Block $block, int $sourcePosition): bool
    {
        if ($this->still->gain() === 0.0 && ! $this->still->moving()) {
            $block->fallSilent();

            return false;
        }
        $this->still->process($block);
        if ($this->moving->isIdle()) {
            return true;
        }
        $gains = $this->moving->gains($sourcePosition - $this->inputLatency, $block->frames());
        if (max([0.0, ...$gains]) <= 0.0) {
            $block->fallSilent();

            return false;
        }
        $block->left = Samples::multiply($block->left, $gains);
        $block->right = $block->mono ? [] : Samples::multiply($block->right, $gains);

        return true;
    }
}
