<?php

declare(strict_types=1);

namespace Hafen\Hardware;

/**
 * An audio interface: blocks come in and go out by its sample clock.
 *
 * For each block {@see capture()} is called first and {@see play()} then, with the same frames. Ports are counted from 1.
 */
interface AudioInterface
{
    public function latency(): InterfaceLatency;

    /** Frames of the longest block it can be asked for. */
    public function longestBlock(): int;

    /** Takes in the next block of all inputs. */
    public function capture(int $frames): void;

    /** @return list<float> what came in at an input in the block that was captured last; silence where there is no such input */
    public function input(int $port): array;

    /**
     * Samples by which an input comes later than the interface makes it; 0 for one that runs by its clock, null while it is not known. It is that
     * of the block that was handed to the outputs last.
     */
    public function lateness(int $port): ?int;

    /** Keeps the lateness of an input the same from the next block on, as it is recorded; or no longer. */
    public function keepLateness(int $port, bool $isKept): void;

    /**
     * What was on its way from an input that comes late, after the last block; waits for it.
     *
     * @return list<float>
     */
    public function rest(int $port, int $frames): array;

    /**
     * Hands a block to the outputs.
     *
     * @param  array<int, list<float>>  $outputs  by port; the others are silent
     * @param  ?int  $position  in the session of its first sample, as an interface sends time code; null while nothing plays
     */
    public function play(array $outputs, int $frames, ?int $position): void;

    /** @return array<int, InputReading> what came in since last asked, by port */
    public function readings(): array;
}
