<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Metering\Meter;
use Hafen\Processor\Keyed;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\ReducesGain;
use Hafen\Session\Channel;
use Hafen\Session\ProcessorInsert;

/**
 * One insert at work: its processor, dry/wet against a dry copy of the same delay, bypass without a click or a shift in
 * time, moving parameters, its meter and its clock.
 */
final class Slot implements Stop
{
    private readonly Meter $meter;

    private readonly ParameterGlide $glide;

    private readonly DryWet $share;

    private readonly Ride $ride;

    private ?ParameterRide $parameterRide = null;

    /** @var array<string, float> set last by the ride */
    private array $ridden = [];

    /** Nothing sounded yet: what rides starts where it is. */
    private bool $isFresh = true;

    /** Samples by which sound comes late to the insert. */
    private int $late = 0;

    private int $position = 0;

    private ?Feed $key = null;

    /** What the processor listens to, during one block. */
    private ?Block $heard = null;

    private int $nanoseconds = 0;

    public function __construct(
        public readonly string $id,
        public readonly string $processorId,
        private readonly ProcessorSpec $spec,
        private readonly Processor $processor,
        ParameterValues $values,
        int $sampleRate,
    ) {
        $this->meter = new Meter;
        $this->glide = new ParameterGlide($spec, $values, $sampleRate);
        $this->share = new DryWet($sampleRate, $processor->latency());
        $this->ride = new Ride($sampleRate);
    }

    /** Takes the insert's state; what changed is moved to, not jumped to. */
    public function configure(ProcessorInsert $insert, Channel $channel, int $late): void
    {
        $mix = RideLaws::mix($channel, $insert->id);
        $this->ride->follow($mix);
        $this->late = $late;
        $before = $this->parameterRide;
        $this->parameterRide = ParameterRide::of($channel, $insert->id, $this->spec);
        $target = $insert->on && $channel->insertsOn ? ($mix === null ? $insert->mix : 1.0) : 0.0;
        if ($target > 0.0 && $this->share->isIdle()) {
            $this->processor->reset();
            $this->isFresh = true;
            $this->share->fill($this->processor->latency());
        }
        $this->share->towards($target);
        $this->glide->towards(ParameterValues::of($this->spec, $insert->parameters));
        if ($before !== null && $this->parameterRide === null) {
            $this->processor->set($this->glide->step(0));
        }
        $this->ridden = [];
        if ($this->glide->moving()) {
            // Choices and switches at once: latency depends on them. Numbers wait for the sound, if there is any.
            $this->processor->set($this->glide->step($this->share->isIdle() ? PHP_INT_MAX : 0));
        }
        $this->share->resize($this->processor->latency());
    }

    /** Has the processor listen to another sound; null is the sound it works on. */
    public function listenTo(?Feed $key): void
    {
        $this->key = $key;
    }

    /** Is where it was set to be, at once: for a path that has not sounded yet. */
    public function settle(): void
    {
        $this->share->settle();
        $this->ride->settle();
    }

    public function reset(): void
    {
        $this->processor->reset();
        $this->isFresh = true;
        $this->share->reset();
    }

    public function latency(): int
    {
        return $this->processor->latency();
    }

    public function tail(): int
    {
        return $this->processor->tail();
    }

    public function process(Block $block, int $place, bool $metered, ?StageTaps $taps): void
    {
        $taps?->pass(Tap::beforeStage($this->id), $block);
        $start = hrtime(true);
        $this->position = $place - $this->late;
        $this->heard = $this->key?->take($place, $block->frames());
        $this->share->process($block, $this->wet(...), $this->ride->isIdle() ? null : $this->ride->gains($this->position, $block->frames()));
        $this->nanoseconds += hrtime(true) - $start;
        if ($metered) {
            $this->meter->measure($block, $place);
            if ($this->processor instanceof ReducesGain && ! $this->share->isIdle()) {
                $this->meter->reduced($this->processor->gainReduction());
            }
        }
        $taps?->pass("insert:{$this->id}", $block);
    }

    public function stages(): array
    {
        return ["insert:{$this->id}" => $this->latency()];
    }

    public function meters(): array
    {
        return ["insert:{$this->id}" => $this->meter];
    }

    public function meter(): Meter
    {
        return $this->meter;
    }

    public function stops(): array
    {
        return ["insert:{$this->id}" => $this];
    }

    /** Time spent since last asked, in nanoseconds. */
    public function takeNanoseconds(): int
    {
        $nanoseconds = $this->nanoseconds;
        $this->nanoseconds = 0;

        return $nanoseconds;
    }

    private function wet(Block $block): void
    {
        $this->processor instanceof Positioned && $this->processor->at($this->position);
        if (! $this->glide->moving() && $this->parameterRide === null) {
            $this->key($this->heard);
            $this->processor->process($block);

            return;
        }
        // Small steps on a fixed grid, so that the movement is the same whatever the block length.
        $left = $right = [];
        $mono = true;
        $frames = $block->frames();
        for ($at = 0; $at < $frames; $at += $length) {
            $length = min($frames - $at, $this->parameterRide === null ? Grid::STEP : Grid::after($this->position + $at) - $this->position - $at);
            $part = new Block(
                array_slice($block->left, $at, $length),
                $block->mono ? [] : array_slice($block->right, $at, $length),
                $block->mono,
            );
            $this->set($this->position + $at, $this->parameterRide === null ? Grid::STEP : $length);
            $this->key($this->heard === null ? null : new Block(
                array_slice($this->heard->left, $at, $length),
                $this->heard->mono ? [] : array_slice($this->heard->right, $at, $length),
                $this->heard->mono,
            ));
            $this->processor->process($part);
            $mono = $part->mono;
            $left[] = $part->left;
            $right[] = $part->right;
        }
        $block->left = array_merge(...$left);
        $block->right = $mono ? [] : array_merge(...$right);
        $block->mono = $mono;
    }

    private function key(?Block $heard): void
    {
        if ($heard !== null && $this->processor instanceof Keyed) {
            $this->processor->key($heard);
        }
    }

    private function set(int $position, int $frames): void
    {
        $isMoving = $this->glide->moving();
        $values = $this->glide->step($frames);
        if ($this->parameterRide === null) {
            $this->processor->set($values);

            return;
        }
        if ($this->isFresh) {
            $this->isFresh = false;
            $this->processor->set($values->withNumbers($this->parameterRide->at($position - Grid::STEP)));
            $this->processor->reset();
            $this->processor instanceof Positioned && $this->processor->at($position);
        }
        $ridden = $this->parameterRide->at($position);
        if ($isMoving || $ridden !== $this->ridden) {
            $this->ridden = $ridden;
            $this->processor->set($values->withNumbers($ridden));
        }
    }
}
