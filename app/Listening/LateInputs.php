<?php

declare(strict_types=1);

namespace App\Listening;

use Hafen\Hardware\AudioInterface;

/** How late the inputs come that a take is of; while it is written they stay in step. */
final class LateInputs
{
    /** Seconds it is waited for a page to say what it plays while its microphone is recorded. */
    private const LONGEST_WAIT = 3.0;

    private int $waited = 0;

    /** @param  list<int>  $ports */
    public function __construct(private readonly AudioInterface $interface, private readonly array $ports, private readonly int $sampleRate)
    {
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

        return $isKnown ? ($known === [] ? 0 : max($known)) : null;
    }

    public function keep(bool $isKept): void
    {
        foreach ($this->ports as $port) {
            $this->interface->keepLateness($port, $isKept);
        }
    }
}
