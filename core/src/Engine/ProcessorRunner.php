<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Metering\Meter;
use Hafen\Note\HeldKeys;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteEvent;
use Hafen\Processor\ChangesNotes;
use Hafen\Processor\FollowsNotes;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\ReducesGain;
use Hafen\Processor\Settles;
use Hafen\Processor\TakesNotes;
use Hafen\Processor\TakesSidechain;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\ProcessorInsert;

/**
 * One insert at work: its processor, dry/wet against a dry copy of the same delay, bypass without a click or a shift in
 * time, moving parameters, its meter and its clock.
 */
final class ProcessorRunner implements InsertRunner
{
    use MeteredInsert;

    private readonly ParameterSmoother $glide;

    private readonly DryWet $share;

    private readonly GainAutomation $automation;

    private ?ParameterAutomation $parameterAutomation = null;

    /** @var array<string, float|bool> set last by automation */
    private array $automated = [];

    /** No sound has passed yet, so automated parameters start at their current value. */
    private bool $isFresh = true;

    /** Latency at the insert's input in samples. */
    private int $inputLatency = 0;

    private int $position = 0;

    private ?Feed $sidechain = null;

    private ?NotePlayer $player = null;

    /** Id of the channel whose notes steer it. */
    private ?string $follows = null;

    /** Notes that steer it were there until now. */
    private bool $isLettingGo = false;

    /** @var list<NoteEvent> that steer it in the current block */
    private array $steering = [];

    /** Sidechain block of the current block. */
    private ?Block $heard = null;

    private readonly Rest $rest;

    public function __construct(
        public readonly string $id,
        public readonly string $processorId,
        private readonly ProcessorSpec $spec,
        private readonly Processor $processor,
        ParameterValues $values,
        private readonly int $sampleRate,
    ) {
        $this->meter = new Meter;
        $this->rest = new Rest;
        $this->glide = new ParameterSmoother($spec, $values, $sampleRate);
        $this->share = new DryWet($sampleRate, $processor->latency());
        $this->automation = new GainAutomation($sampleRate);
    }

    /**
     * Takes over the state of an insert; changed values are reached smoothly.
     *
     * @param  ?float  $fade  ms in which they are; null is the usual time
     */
    public function configure(ProcessorInsert $insert, Channel $channel, int $inputLatency, ?float $fade = null): void
    {
        [$moving, $target] = AutomationLaws::share($channel, $insert, $this->sampleRate);
        $this->automation->follow($moving);
        $this->inputLatency = $inputLatency;
        $before = $this->parameterAutomation;
        $this->parameterAutomation = ParameterAutomation::of($channel, $insert, $this->spec, $this->sampleRate);
        if ($target > 0.0 && $this->share->isIdle()) {
            $this->processor->reset();
            $this->isFresh = true;
            $this->share->fill($this->processor->latency());
        }
        $this->share->towards($target, $fade);
        $this->glide->towards(ParameterValues::of($this->spec, $insert->parameters), $fade);
        if ($before !== null && $this->parameterAutomation === null) {
            $this->processor->set($this->glide->step(0));
        }
        $this->automated = [];
        if ($this->glide->moving()) {
            // Sets choices and switches at once because latency depends on them; numbers are smoothed while sound passes.
            $this->processor->set($this->glide->step($this->share->isIdle() ? PHP_INT_MAX : 0));
        }
        $this->share->resize($this->processor->latency());
    }

    /** Sets the sidechain feed; null is the insert's own input. */
    public function listenTo(?Feed $sidechain): void
    {
        $this->sidechain = $sidechain;
    }

    /**
     * Sets the notes that steer it: those of a note channel, or none.
     *
     * @param  ?string  $channel  its id; null is none
     * @param  list<NoteClip>  $clips
     */
    public function followNotes(?string $channel, array $clips, float $tempo): void
    {
        $this->follows = $channel;
        if ($channel === null) {
            // What it holds is let go.
            $this->isLettingGo = $this->player !== null;
            $this->player = null;

            return;
        }
        $this->player ??= new NotePlayer($this->sampleRate);
        $this->player->set($clips, $tempo);
    }

    /** Plays what is held on keys of the channel it follows. */
    public function hold(?HeldKeys $held): void
    {
        $this->player?->hold($this->follows === null ? null : $held?->on($this->follows));
    }

    /** Jumps to its target values; used before a path has produced sound. */
    public function settle(): void
    {
        $this->share->settle();
        $this->automation->settle();
    }

    public function reset(): void
    {
        $this->processor->reset();
        $this->isFresh = true;
        $this->share->reset();
        $this->rest->reset();
    }

    public function isSettled(): bool
    {
        return ! $this->share->moving() && ! $this->glide->moving() && $this->automation->isIdle() && $this->parameterAutomation === null && $this->sidechain === null
            && (! $this->processor instanceof Settles || $this->processor->isSettled());
    }

    public function latency(): int
    {
        return $this->processor->latency();
    }

    public function tail(): int
    {
        return $this->processor->tail() + ($this->player?->longest() ?? 0);
    }

    public function process(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        $taps?->pass(Tap::beforeStage($this->id), $block);
        $this->steering = $this->player?->read($sourcePosition - $this->inputLatency, $block->frames()) ?? [];
        if ($this->isLettingGo) {
            $this->isLettingGo = false;
            $this->steering = [NoteEvent::allOff()];
        }
        if ($this->steering === [] && $this->rest->allows($block, $this)) {
            $metered && $this->meter->measure($block, $sourcePosition);
            $taps?->pass("insert:{$this->id}", $block);

            return;
        }
        $start = hrtime(true);
        $comesSilent = $block->isSilent;
        $block->isSilent = false;
        $this->position = $sourcePosition - $this->inputLatency;
        $this->heard = $this->sidechain?->take($sourcePosition, $block->frames());
        $this->share->process($block, $this->wet(...), $this->automation->isIdle() ? null : $this->automation->gains($this->position, $block->frames()));
        if ($comesSilent) {
            $this->rest->look($block);
            // One that counts on works for what comes; what follows it can rest meanwhile.
            $this->rest->isOver($this) && $block->fallSilent();
        }
        $this->nanoseconds += hrtime(true) - $start;
        if ($metered) {
            $this->meter->measure($block, $sourcePosition);
            if ($this->processor instanceof ReducesGain && ! $this->share->isIdle()) {
                $this->meter->reduced($this->processor->gainReduction());
            }
        }
        $taps?->pass("insert:{$this->id}", $block);
    }

    private function wet(Block $block): void
    {
        $this->processor instanceof Positioned && $this->processor->at($this->position);
        $notes = $block->notes;
        if (! $this->glide->moving() && $this->parameterAutomation === null) {
            $this->sidechain($this->heard);
            $this->steer($this->steering);
            $block->notes = $this->played($notes, $block->frames());
            $this->processor->process($block);

            return;
        }
        $left = $right = $passed = [];
        // Small steps on a fixed grid, so that the movement is the same whatever the block length.
        $mono = true;
        $frames = $block->frames();
        for ($at = 0; $at < $frames; $at += $length) {
            $length = min($frames - $at, $this->parameterAutomation === null ? Grid::STEP : Grid::after($this->position + $at) - $this->position - $at);
            $part = new Block(
                array_slice($block->left, $at, $length),
                $block->mono ? [] : array_slice($block->right, $at, $length),
                $block->mono,
            );
            $this->set($this->position + $at, $this->parameterAutomation === null ? Grid::STEP : $length);
            $this->sidechain($this->heard === null ? null : new Block(
                array_slice($this->heard->left, $at, $length),
                $this->heard->mono ? [] : array_slice($this->heard->right, $at, $length),
                $this->heard->mono,
            ));
            foreach ($this->played($notes === [] ? [] : NoteEvent::within($notes, $at, $length), $length) as $event) {
                $passed[] = $event->at($event->at + $at);
            }
            $this->steer(NoteEvent::within($this->steering, $at, $length));
            $this->processor->process($part);
            $mono = $part->mono;
            $left[] = $part->left;
            $right[] = $part->right;
        }
        $block->left = array_merge(...$left);
        $block->right = $mono ? [] : array_merge(...$right);
        $block->mono = $mono;
        $block->notes = $passed;
    }

    /**
     * Gives the notes of a block, or of a part of it, to the processor.
     *
     * @param  list<NoteEvent>  $notes
     * @return list<NoteEvent> those that pass it
     */
    private function played(array $notes, int $frames): array
    {
        if ($this->processor instanceof TakesNotes) {
            $this->processor->notes($notes);

            return [];
        }

        return $this->processor instanceof ChangesNotes ? $this->processor->changed($notes, $frames) : $notes;
    }

    /** @param  list<NoteEvent>  $events */
    private function steer(array $events): void
    {
        if ($this->processor instanceof FollowsNotes) {
            $this->processor->follow($events);
        }
    }

    private function sidechain(?Block $heard): void
    {
        if ($heard !== null && $this->processor instanceof TakesSidechain) {
            $this->processor->sidechain($heard);
        }
    }

    private function set(int $position, int $frames): void
    {
        $isMoving = $this->glide->moving();
        $values = $this->glide->step($frames);
        if ($this->parameterAutomation === null) {
            $this->processor->set($values);

            return;
        }
        if ($this->isFresh) {
            $this->isFresh = false;
            $this->processor->set($values->withMoved($this->parameterAutomation->at($position - Grid::STEP)));
            $this->processor->reset();
            $this->processor instanceof Positioned && $this->processor->at($position);
        }
        $automated = $this->parameterAutomation->at($position);
        if ($isMoving || $automated !== $this->automated) {
            $this->automated = $automated;
            $this->processor->set($values->withMoved($automated));
        }
    }
}
