<?php

declare(strict_types=1);

namespace Hafen\Load;

use Hafen\Session\Session;

/** Finds the smallest set of freezes that brings a session to a load. */
final readonly class FreezePlanner
{
    /** Channels that are named of what remains. */
    private const NAMED = 3;

    private FreezeForecast $forecast;

    public function __construct(Session $session, private SessionLoad $load)
    {
        $this->forecast = new FreezeForecast($session, $load);
    }

    /** @param  float  $target  load that is wanted, 1.0 is a core */
    public function plan(float $target, FewestBy $by): FreezePlan
    {
        $candidates = array_values(array_filter($this->forecast->candidates(), fn (string $id): bool => $this->forecast->saving($id) > 0.0));
        if ($this->load->total <= $target) {
            return $this->result([], $target);
        }
        $plans = [$this->grown($candidates, $target, $this->forecast->saving(...))];
        if ($by === FewestBy::Time) {
            $plans[] = $this->grown($candidates, $target, fn (string $id): float => $this->forecast->saving($id) / max(1e-6, $this->forecast->seconds($id)));
            $plans[] = $this->grown($candidates, $target, fn (string $id): float => -$this->forecast->seconds($id));
        }
        $plans = array_map(fn (array $channels): FreezePlan => $this->result($channels, $target), $plans);
        usort($plans, static fn (FreezePlan $one, FreezePlan $other): int => $by === FewestBy::Time
            ? $one->seconds <=> $other->seconds
            : count($one->channels) <=> count($other->channels));

        return $plans[0];
    }

    /**
     * Takes channels, the best first, until the load is reached, and leaves out again those it can do without.
     *
     * @param  list<string>  $candidates
     * @param  callable(string): float  $worth  of a channel: the highest is taken first
     * @return list<string>
     */
    private function grown(array $candidates, float $target, callable $worth): array
    {
        $worths = array_combine($candidates, array_map($worth, $candidates));
        usort($candidates, static fn (string $one, string $other): int => $worths[$other] <=> $worths[$one]);
        $taken = [];
        $load = $this->load->total;
        foreach ($candidates as $id) {
            if ($load <= $target) {
                break;
            }
            $with = $this->forecast->with([...$taken, $id]);
            // A track whose group is frozen already gives nothing more.
            if ($with < $load) {
                $taken[] = $id;
                $load = $with;
            }
        }
        foreach (array_reverse($taken) as $id) {
            $without = array_values(array_diff($taken, [$id]));
            $with = $this->forecast->with($without);
            if ($with <= max($target, $this->forecast->with($taken))) {
                $taken = $without;
            }
        }

        return $taken;
    }

    /** @param  list<string>  $channels */
    private function result(array $channels, float $target): FreezePlan
    {
        $savings = array_combine($channels, array_map($this->forecast->saving(...), $channels));
        usort($channels, static fn (string $one, string $other): int => $savings[$other] <=> $savings[$one]);
        $after = $channels === [] ? $this->load->total : $this->forecast->with($channels);

        return new FreezePlan($channels, $this->load->total, $after, array_sum(array_map($this->forecast->seconds(...), $channels)), $after <= $target, $this->remaining($channels));
    }

    /**
     * @param  list<string>  $channels  that are frozen then
     * @return list<string>
     */
    private function remaining(array $channels): array
    {
        $loads = $this->forecast->loadsWith($channels);
        arsort($loads);

        return array_map(strval(...), array_slice(array_keys($loads), 0, self::NAMED));
    }
}
