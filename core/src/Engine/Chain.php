<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Metering\Meter;

/** Stops one after the other: a row of a channel, or of a branch. */
final class Chain
{
    /** @var list<Stop> */
    private array $stops = [];

    /** @param  list<Stop>  $stops */
    public function set(array $stops): void
    {
        $this->stops = $stops;
    }

    public function latency(): int
    {
        $latency = 0;
        foreach ($this->stops as $stop) {
            $latency += $stop->latency();
        }

        return $latency;
    }

    public function tail(): int
    {
        $tail = 0;
        foreach ($this->stops as $stop) {
            $tail += $stop->tail();
        }

        return $tail;
    }

    public function settle(): void
    {
        foreach ($this->stops as $stop) {
            $stop->settle();
        }
    }

    public function reset(): void
    {
        foreach ($this->stops as $stop) {
            $stop->reset();
        }
    }

    public function process(Block $block, int $place, bool $metered, ?StageTaps $taps): void
    {
        foreach ($this->stops as $stop) {
            $stop->process($block, $place, $metered, $taps);
        }
    }

    /** The meter after the last stop, which measures what leaves the chain. */
    public function lastMeter(): ?Meter
    {
        return $this->stops === [] ? null : $this->stops[count($this->stops) - 1]->meter();
    }

    /** @return array<string, int> samples since the chain's start by stage */
    public function stages(): array
    {
        $stages = [];
        $late = 0;
        foreach ($this->stops as $stop) {
            foreach ($stop->stages() as $stage => $within) {
                $stages[$stage] = $late + $within;
            }
            $late += $stop->latency();
        }

        return $stages;
    }

    /** @return array<string, Meter> by stage */
    public function meters(): array
    {
        return array_merge(...array_map(static fn (Stop $stop): array => $stop->meters(), $this->stops));
    }

    /** @return array<string, Stop> all of them, those in splits too, by the stage after each */
    public function stops(): array
    {
        return array_merge(...array_map(static fn (Stop $stop): array => $stop->stops(), $this->stops));
    }
}
