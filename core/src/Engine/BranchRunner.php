<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Closure;
use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Gain\GainRamp;
use Hafen\Dsp\Gain\StereoGain;
use Hafen\Metering\Meter;
use Hafen\Note\NoteEvent;
use Hafen\Routing\PanLaw;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\NoteZone;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\Split;

/**
 * Runs one branch of a split: band filter, the gate of the selector, inserts, level, and the delay that aligns it with the slowest branch.
 *
 * A branch the selector has left costs nothing once its tail is over. Where the selector does not let tails ring, the tail is cut as soon as
 * what came in before has passed.
 */
final class BranchRunner
{
    public readonly Chain $chain;

    public readonly Meter $meter;

    public readonly BiquadCascade $band;

    private readonly StereoGain $level;

    private readonly GainAutomation $automation;

    private readonly DelayLine $alignment;

    private readonly SelectorGate $gate;

    /** What a branch holds is cut by it where tails do not ring. */
    private readonly GainRamp $cut;

    private bool $rings = true;

    private ?NoteZone $keys = null;

    private ?NoteZone $velocities = null;

    /** Latency at the level in samples. */
    private int $levelLatency = 0;

    /** What it held was cut, and nothing came in since. */
    private bool $isCut = false;

    /** Frames since the gate closed. */
    private int $closed = 0;

    /** Frames for which nothing but silence went into the alignment. */
    private int $quiet = 0;

    public function __construct(public readonly string $id, private readonly int $sampleRate)
    {
        $this->gate = new SelectorGate($sampleRate);
        $this->cut = new GainRamp(1.0, $sampleRate);
        $this->automation = new GainAutomation($sampleRate);
        $this->chain = new Chain;
        $this->meter = new Meter;
        $this->band = new BiquadCascade;
        $this->level = new StereoGain(0.0, $sampleRate);
        $this->alignment = new DelayLine(0);
    }

    /**
     * @param  list<InsertRunner>  $runners
     * @param  ?Closure(int): float  $selected  where the selector stands; null where it does not move
     * @param  int  $inputLatency  samples by which sound comes late to the branch
     * @param  ?float  $fade  ms in which changes are reached; null is the usual time
     */
    public function configure(Split $split, Branch $branch, Channel $channel, array $runners, ?Closure $selected, int $inputLatency, ?float $fade): void
    {
        $this->chain->set($runners);
        $this->keys = $branch->keys;
        $this->velocities = $branch->velocities;
        $this->levelLatency = $inputLatency + $this->chain->latency();
        $moving = AutomationLaws::branch($channel, $branch, $this->sampleRate);
        $this->automation->follow($moving);
        $gain = ($split->isHeard($branch) ? ($moving === null ? Decibel::toGain($branch->gain) : 1.0) : 0.0) * ($branch->invert ? -1.0 : 1.0);
        // Branch pan is a stereo balance: in the centre it changes nothing.
        [$left, $right] = PanLaw::gains(Width::Stereo, $branch->pan, 0.0);
        $this->level->towards($gain * $left, $gain * $right, $fade);
        $selector = $split->selector ?? new Selector;
        $this->gate->configure($split->selector === null ? null : $branch->range, $selector->value, $selected, $selector->fade, $inputLatency, $fade);
        $this->rings = $selector->rings;
        $this->rings && $this->cut->towards(1.0);
    }

    public function align(int $samples): void
    {
        $this->alignment->resize($samples);
    }

    public function isSettled(): bool
    {
        return ! $this->level->moving() && $this->automation->isIdle() && $this->gate->isSettled() && ! $this->cut->moving()
            && ! $this->alignment->changing() && $this->chain->isSettled();
    }

    public function settle(): void
    {
        $this->level->settle();
        $this->automation->settle();
        $this->gate->settle();
        $this->chain->settle();
    }

    public function reset(): void
    {
        $this->band->reset();
        $this->chain->reset();
        $this->alignment->reset();
        $this->quiet = 0;
        $this->isCut = false;
    }

    public function process(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        if ($block->notes !== [] && ($this->keys !== null || $this->velocities !== null)) {
            $block->notes = $this->own($block->notes);
        }
        $isOpen = $this->gate->process($block, $sourcePosition);
        $this->closed = $isOpen ? 0 : $this->closed + $block->frames();
        $this->isCut = $this->isCut && ! $isOpen && ! $this->rings;
        if ($this->isCut) {
            $this->passSilence($block, $sourcePosition, $metered, $taps);
        } else {
            $this->chain->process($block, $sourcePosition, $metered, $taps);
        }
        if (! $block->isSilent) {
            $this->level->process($block);
            $this->automation->process($block, $sourcePosition - $this->levelLatency);
            $this->rings || $this->cutTail($block, $isOpen);
        }
        if ($metered) {
            $this->meter->measure($block, $sourcePosition);
        }
        $taps?->pass("branch:{$this->id}", $block);
        $this->aligned($block);
    }

    /**
     * The notes the branch plays for. Ends of others pass as well, so that none stays down.
     *
     * @param  list<NoteEvent>  $notes
     * @return list<NoteEvent>
     */
    private function own(array $notes): array
    {
        $own = [];
        foreach ($notes as $event) {
            $gain = $event->isOn() ? ($this->keys?->gain((float) $event->key) ?? 1.0) * ($this->velocities?->gain(round($event->value * 127.0)) ?? 1.0) : 1.0;
            if ($gain > 0.0) {
                $own[] = $gain === 1.0 ? $event : $event->withValue($gain * $event->value);
            }
        }

        return $own;
    }

    /** Ends what the inserts hold where the gate is closed and what came in before has passed them. */
    private function cutTail(Block $block, bool $isOpen): void
    {
        if ($isOpen) {
            $this->cut->towards(1.0);
        } elseif ($this->closed > $this->chain->latency() + $block->frames()) {
            $this->cut->towards(0.0);
        }
        $this->cut->process($block);
        if ($this->cut->gain() === 0.0 && ! $this->cut->moving()) {
            $this->chain->reset();
            $block->fallSilent();
            $this->isCut = true;
            // What comes next finds an empty branch, and is faded in by the gate alone.
            $this->cut->towards(1.0);
            $this->cut->settle();
        }
    }

    /** Has silence at every stage of the inserts. */
    private function passSilence(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        foreach ($metered ? $this->chain->meters() : [] as $meter) {
            $meter->measure($block, $sourcePosition);
        }
        foreach ($taps === null ? [] : array_keys($this->chain->stages()) as $stage) {
            $taps?->pass((string) $stage, $block);
        }
    }

    private function aligned(Block $block): void
    {
        $this->quiet = $block->isSilent ? $this->quiet + $block->frames() : 0;
        if ($this->quiet > $this->alignment->length() + $block->frames() && ! $this->alignment->changing()) {
            return;
        }
        $block->isSilent = false;
        $this->alignment->process($block);
    }
}
