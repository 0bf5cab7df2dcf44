<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NoCrossovers;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;

/** Moves the crossover frequencies of a split by frequency, in Hz, rising. */
final readonly class SetCrossovers implements Edit
{
    /** @param  list<float>  $crossovers  as many as the split has */
    public function __construct(public string $split, public array $crossovers)
    {
    }

    public function apply(Session $session): Session
    {
        [$location, $split] = Branches::split($session, $this->split);
        if ($split->by !== SplitBy::Frequency) {
            throw NoCrossovers::here();
        }

        return $session->withInsert($location, $split->withCrossovers($this->crossovers));
    }

    public function label(Session $before): string
    {
        $hertz = implode(' and ', array_map(static fn (float $frequency): string => number_format($frequency, 0, '.', '').' Hz', $this->crossovers));

        return 'Crossover of '.($before->locate($this->split)->channel->name ?? '')." {$hertz}";
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->split}/crossovers", "inserts/{$this->split}/branches"];
    }
}
