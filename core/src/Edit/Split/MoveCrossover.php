<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NoCrossovers;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;

/** Moves one crossover of a split by frequency; it stops where it would pass its neighbours. */
final readonly class MoveCrossover implements Edit
{
    /** The least ratio between two neighbours. */
    public const LEAST_RATIO = 1.01;

    /** @param  float  $frequency  Hz */
    public function __construct(public string $split, public int $index, public float $frequency)
    {
    }

    public function apply(Session $session): Session
    {
        [$location, $split] = Branches::split($session, $this->split);
        if ($split->by !== SplitBy::Frequency || ! isset($split->crossovers[$this->index])) {
            throw NoCrossovers::here();
        }
        $crossovers = $split->crossovers;
        $low = ($crossovers[$this->index - 1] ?? 0.0) * self::LEAST_RATIO;
        $high = ($crossovers[$this->index + 1] ?? INF) / self::LEAST_RATIO;
        $crossovers[$this->index] = min($high, max($low, $this->frequency));

        return $session->withInsert($location, $split->withCrossovers(array_values($crossovers)));
    }

    public function label(Session $before): string
    {
        return 'Crossover of '.($before->locate($this->split)->channel->name ?? '').sprintf(' %.0f Hz', $this->frequency);
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->split}/crossovers", "inserts/{$this->split}/branches"];
    }
}
