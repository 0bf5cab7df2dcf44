<?php

declare(strict_types=1);

namespace Hafen\Headroom;

/** One way to regain headroom. */
interface Remedy
{
    /** "trim-sources" */
    public function id(): string;

    /** What it is called while nothing is known of it in a session. */
    public function title(): string;

    /** Whether it goes by an amount of dB, which can be chosen to reach an aim. */
    public function hasAmount(): bool;

    /**
     * @param  float  $amount  dB by which the main should come down; of no account where it has none
     * @return ?Proposal null where there is nothing it can do here
     */
    public function propose(Situation $situation, float $amount): ?Proposal;
}
