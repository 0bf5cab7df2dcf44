<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\LinkwitzRiley;
use Hafen\Metering\Meter;
use Hafen\Note\NoteEvent;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;

/**
 * Runs a split: feeds the branches, aligns their outputs and sums them. Bypassed it
 * passes its input with the same latency.
 */
final class SplitRunner implements InsertRunner
{
    /** Frames between two steps of a moving crossover. */
    private const STEP = 64;

    /** Share of the remaining distance, in octaves, that a crossover moves at each step. */
    private const GLIDE = 0.08;

    private readonly Meter $before;

    private readonly Meter $after;

    private readonly DryWet $share;

    private readonly GainAutomation $automation;

    /** Latency at its input in samples. */
    private int $inputLatency = 0;

    /** @var list<BranchRunner> */
    private array $branchRunners = [];

    private SplitBy $by = SplitBy::Copies;

    /** @var list<float> as they are now */
    private array $crossovers = [];

    /** @var list<float> where they are going */
    private array $target = [];

    private int $nanoseconds = 0;

    private readonly Rest $rest;

    public function __construct(public readonly string $id, private readonly int $sampleRate)
    {
        $this->rest = new Rest;
        $this->before = new Meter;
        $this->after = new Meter;
        $this->share = new DryWet($sampleRate);
        $this->automation = new GainAutomation($sampleRate);
    }

    /**
     * Takes over the state of a split; changed values are reached smoothly.
     *
     * @param  array<string, list<InsertRunner>>  $runners  of each branch by its id
     * @param  int  $inputLatency  samples by which sound comes late to the split
     * @param  ?float  $fade  ms in which changed values are reached; null is the usual time
     */
    public function configure(Split $split, Channel $channel, array $runners, int $inputLatency, ?float $fade = null): void
    {
        $this->inputLatency = $inputLatency;
        $known = [];
        foreach ($this->branchRunners as $branchRunner) {
            $known[$branchRunner->id] = $branchRunner;
        }
        $this->by = $split->by;
        $this->branchRunners = array_map(fn ($branch): BranchRunner => $known[$branch->id] ?? new BranchRunner($branch->id, $this->sampleRate), $split->branches);
        $selected = AutomationLaws::selector($channel, $split, $this->sampleRate);
        foreach ($split->branches as $index => $branch) {
            $this->branchRunners[$index]->configure($split, $branch, $channel, $runners[$branch->id], $selected, $inputLatency, $fade);
        }
        $this->target = $split->crossovers;
        if (count($this->crossovers) !== count($this->target) || $this->share->isIdle()) {
            $this->crossovers = $this->target;
        }
        $this->tune();
        [$moving, $target] = AutomationLaws::share($channel, $split, $this->sampleRate);
        $this->automation->follow($moving);
        if ($target > 0.0 && $this->share->isIdle()) {
            $this->resetBranches();
            $this->share->fill($this->latency());
        }
        $this->share->towards($target, $fade);
        $this->share->resize($this->latency());
        foreach ($this->branchRunners as $branchRunner) {
            $branchRunner->align($channel->aligned ? $this->latency() - $branchRunner->chain->latency() : 0);
        }
    }

    public function latency(): int
    {
        return max([0, ...array_map(static fn (BranchRunner $branchRunner): int => $branchRunner->chain->latency(), $this->branchRunners)]);
    }

    public function tail(): int
    {
        return max([0, ...array_map(static fn (BranchRunner $branchRunner): int => $branchRunner->chain->tail(), $this->branchRunners)]);
    }

    public function settle(): void
    {
        $this->share->settle();
        $this->automation->settle();
        $this->crossovers = $this->target;
        $this->tune();
        foreach ($this->branchRunners as $branchRunner) {
            $branchRunner->settle();
        }
    }

    public function reset(): void
    {
        $this->share->reset();
        $this->resetBranches();
        $this->rest->reset();
    }

    public function isSettled(): bool
    {
        return ! $this->share->moving() && $this->automation->isIdle() && $this->crossovers === $this->target
            && array_filter($this->branchRunners, static fn (BranchRunner $branchRunner): bool => ! $branchRunner->isSettled()) === [];
    }

    public function process(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        if ($this->rest->allows($block, $this)) {
            $this->passSilence($block, $sourcePosition, $metered, $taps);

            return;
        }
        $comesSilent = $block->isSilent;
        $block->isSilent = false;
        $start = hrtime(true);
        if ($metered) {
            $this->before->measure($block, $sourcePosition);
        }
        $taps?->pass("into:{$this->id}", $block);
        $this->share->process($block, fn (Block $wet) => $this->branches($wet, $sourcePosition, $metered, $taps), $this->automation->isIdle() ? null : $this->automation->gains($sourcePosition - $this->inputLatency, $block->frames()));
        if ($comesSilent) {
            $this->rest->look($block);
        }
        $this->nanoseconds += hrtime(true) - $start;
        if ($metered) {
            $this->after->measure($block, $sourcePosition);
        }
        $taps?->pass("insert:{$this->id}", $block);
    }

    public function stages(): array
    {
        $stages = ["into:{$this->id}" => 0];
        foreach ($this->branchRunners as $branchRunner) {
            $stages += $branchRunner->chain->stages();
            $stages["branch:{$branchRunner->id}"] = $branchRunner->chain->latency();
        }
        $stages["insert:{$this->id}"] = $this->latency();

        return $stages;
    }

    public function meters(): array
    {
        $meters = ["into:{$this->id}" => $this->before];
        foreach ($this->branchRunners as $branchRunner) {
            $meters += $branchRunner->chain->meters();
            $meters["branch:{$branchRunner->id}"] = $branchRunner->meter;
        }
        $meters["insert:{$this->id}"] = $this->after;

        return $meters;
    }

    public function meter(): Meter
    {
        return $this->after;
    }

    public function runners(): array
    {
        $runners = [];
        foreach ($this->branchRunners as $branchRunner) {
            $runners += $branchRunner->chain->runners();
        }
        $runners["insert:{$this->id}"] = $this;

        return $runners;
    }

    public function takeNanoseconds(): int
    {
        $nanoseconds = $this->nanoseconds;
        $this->nanoseconds = 0;

        return $nanoseconds;
    }

    /** Has silence at every stage. */
    private function passSilence(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        foreach ($metered ? $this->meters() : [] as $meter) {
            $meter->measure($block, $sourcePosition);
        }
        foreach ($taps === null ? [] : array_keys($this->stages()) as $stage) {
            $taps?->pass((string) $stage, $block);
        }
    }

    private function resetBranches(): void
    {
        foreach ($this->branchRunners as $branchRunner) {
            $branchRunner->reset();
        }
    }

    private function tune(): void
    {
        foreach ($this->branchRunners as $index => $branchRunner) {
            $branchRunner->band->set($this->by === SplitBy::Frequency ? LinkwitzRiley::band($index, $this->crossovers, $this->sampleRate) : []);
        }
    }

    private function branches(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        $parts = $this->parts($block);
        $sum = null;
        $notes = [];
        foreach ($this->branchRunners as $index => $branchRunner) {
            $part = $parts[$index];
            $branchRunner->process($part, $sourcePosition, $metered, $taps);
            array_push($notes, ...$part->notes);
            if ($part->isSilent) {
                // A branch the selector has left.
                $sum ??= $part;

                continue;
            }
            if ($this->by === SplitBy::MidSide && $index === 1) {
                // The side signal is inverted on the right.
                $part->widen();
                $part->right = Samples::scale($part->right, -1.0);
            }
            if ($sum === null || $sum->isSilent) {
                $sum = $part;

                continue;
            }
            if (! $part->mono) {
                $sum->widen();
            }
            $sum->left = Samples::add($sum->left, $part->left);
            if (! $sum->mono) {
                $sum->right = Samples::add($sum->right, $part->right());
            }
        }
        assert($sum !== null);
        $block->left = $sum->left;
        $block->right = $sum->right;
        $block->mono = $sum->mono;
        $block->notes = count($this->branchRunners) > 1 && $notes !== [] ? NoteEvent::sorted($notes) : $notes;
    }

    /** @return list<Block> what each branch gets */
    private function parts(Block $block): array
    {
        if ($this->by === SplitBy::LeftRight) {
            $silence = array_fill(0, $block->frames(), 0.0);

            return self::withNotes([new Block($block->left, $silence), new Block($silence, $block->right())], $block);
        }
        if ($this->by === SplitBy::MidSide) {
            return self::withNotes([
                Block::mono(Samples::mid($block->left, $block->right())),
                Block::mono(Samples::side($block->left, $block->right())),
            ], $block);
        }
        $parts = array_map(static fn (): Block => clone $block, $this->branchRunners);
        if ($this->by === SplitBy::Frequency) {
            $this->filter($parts);
        }

        return $parts;
    }

    /**
     * @param  list<Block>  $parts
     * @return list<Block> each with all notes
     */
    private static function withNotes(array $parts, Block $block): array
    {
        foreach ($parts as $part) {
            $part->notes = $block->notes;
        }

        return $parts;
    }

    /** @param  list<Block>  $parts */
    private function filter(array $parts): void
    {
        if ($this->crossovers === $this->target) {
            foreach ($this->branchRunners as $index => $branchRunner) {
                $branchRunner->band->process($parts[$index]);
            }

            return;
        }
        // Small steps on a fixed grid, so that the movement is the same whatever the block length.
        $filtered = [];
        for ($at = 0, $frames = $parts[0]->frames(); $at < $frames; $at += self::STEP) {
            $this->step();
            foreach ($this->branchRunners as $index => $branchRunner) {
                $piece = new Block(
                    array_slice($parts[$index]->left, $at, self::STEP),
                    array_slice($parts[$index]->right, $at, self::STEP),
                    $parts[$index]->mono,
                );
                $branchRunner->band->process($piece);
                $filtered[$index][] = $piece;
            }
        }
        foreach ($filtered as $index => $pieces) {
            $parts[$index]->left = array_merge(...array_map(static fn (Block $piece): array => $piece->left, $pieces));
            $parts[$index]->right = array_merge(...array_map(static fn (Block $piece): array => $piece->right, $pieces));
        }
    }

    private function step(): void
    {
        foreach ($this->target as $index => $target) {
            $now = $this->crossovers[$index];
            $next = $now * ($target / $now) ** self::GLIDE;
            $this->crossovers[$index] = abs($next / $target - 1.0) < 1e-3 ? $target : $next;
        }
        $this->tune();
    }
}
