<?php

declare(strict_types=1);

namespace App\Listening;

use Hafen\Audio\Block;
use Hafen\Hardware\AudioInterface;

/** How late the inputs come that a take is of, and what is still on its way from them when it ends; while it is written they stay in step. */
final class LateInputs
{
    /** Seconds it is waited for a page to say what it plays while its microphone is recorded. */
    private const LONGEST_WAIT = 3.0;

    private int $waited = 0;

    /** Samples that are on their way. */
    private int $coming = 0;

    /** @param  list<int>  $ports */
    public function __construct(private readonly AudioInterface $interface, private readonly array $ports, private readonly int $sampleRate)
    {
        $this->keep(true);
    }

    /**
     * Samples by which they come later than the interface makes them; null while it is not known: nothing was heard yet that one could play to.
     *
     * @param  int  $frames  that passed since last asked
     */
    public function samples(int $frames): ?int
    {
        $this->waited += $frames;
        $known = array_filter(array_map($this->interface->lateness(...), $this->ports), is_int(...));
        $isKnown = count($known) === count($this->ports) || $this->waited >= self::LONGEST_WAIT * $this->sampleRate;

        $this->coming = max(0, 0, ...$known);

        return $isKnown ? $this->coming : null;
    }

    /** Samples that were on their way when it ended, and are not there yet. */
    public function coming(): int
    {
        return $this->coming;
    }

    /** So many have come. */
    public function came(int $frames): void
    {
        $this->coming -= $frames;
    }

    /** What is on its way; it is waited for. */
    public function rest(): Block
    {
        $sides = array_map(fn (int $port): array => $this->interface->rest($port, $this->coming), $this->ports);

        return isset($sides[1]) ? new Block($sides[0], $sides[1]) : Block::mono($sides[0] ?? []);
    }

    public function release(): void
    {
        $this->keep(false);
    }

    private function keep(bool $isKept): void
    {
        foreach ($this->ports as $port) {
            $this->interface->keepLateness($port, $isKept);
        }
    }
}
