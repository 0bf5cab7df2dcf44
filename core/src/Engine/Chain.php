<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Metering\Meter;

/** Runs inserts in series: the row of a channel or of a branch. */
final class Chain
{
    /** @var list<InsertRunner> */
    private array $runners = [];

    /** @param  list<InsertRunner>  $runners */
    public function set(array $runners): void
    {
        $this->runners = $runners;
    }

    public function latency(): int
    {
        $latency = 0;
        foreach ($this->runners as $runner) {
            $latency += $runner->latency();
        }

        return $latency;
    }

    public function tail(): int
    {
        $tail = 0;
        foreach ($this->runners as $runner) {
            $tail += $runner->tail();
        }

        return $tail;
    }

    public function isSettled(): bool
    {
        foreach ($this->runners as $runner) {
            if (! $runner->isSettled()) {
                return false;
            }
        }

        return true;
    }

    public function settle(): void
    {
        foreach ($this->runners as $runner) {
            $runner->settle();
        }
    }

    public function reset(): void
    {
        foreach ($this->runners as $runner) {
            $runner->reset();
        }
    }

    public function process(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        foreach ($this->runners as $runner) {
            $runner->process($block, $sourcePosition, $metered, $taps);
        }
    }

    /** Returns the meter at the output of the chain. */
    public function lastMeter(): ?Meter
    {
        return $this->runners === [] ? null : $this->runners[count($this->runners) - 1]->meter();
    }

    /** @return array<string, int> samples since the chain's start by stage */
    public function stages(): array
    {
        $stages = [];
        $inputLatency = 0;
        foreach ($this->runners as $runner) {
            foreach ($runner->stages() as $stage => $within) {
                $stages[$stage] = $inputLatency + $within;
            }
            $inputLatency += $runner->latency();
        }

        return $stages;
    }

    /** @return array<string, Meter> by stage */
    public function meters(): array
    {
        return array_merge(...array_map(static fn (InsertRunner $runner): array => $runner->meters(), $this->runners));
    }

    /** @return array<string, InsertRunner> all of them, those in splits too, by the stage after each */
    public function runners(): array
    {
        return array_merge(...array_map(static fn (InsertRunner $runner): array => $runner->runners(), $this->runners));
    }
}
