<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;

/** A channel strip as others take sound from it: one that this process works, or one of another process. */
interface Strip
{
    public function id(): string;

    /** Keeps what passes at this stage in each block, for those who take it there. */
    public function keep(string $stage): void;

    /** What passes in the current block at a kept stage. Whoever changes it makes a copy first. */
    public function passing(string $stage, int $frames): Block;

    /**
     * Latency from the source to each tap of this channel.
     *
     * @return array<string, int> samples by stage, in the order sound passes
     */
    public function stages(): array;

    /** Latency of the whole strip in samples. */
    public function latency(): int;

    /** Whether a file is played in place of all that comes before its fader, or it is switched off. */
    public function isFrozen(): bool;

    /**
     * Its tail in samples, with the tails of channels that feed it.
     *
     * @param  array<string, int>  $others  the same of the strips that may feed it, by id
     */
    public function tail(array $others): int;
}
