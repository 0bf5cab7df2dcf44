<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\Replay;

/** Stores measurements and captured audio by content hash. */
interface SurveyStore
{
    /** Returns null when there are no measurements for this hash. */
    public function measures(string $hash): ?PartMeasures;

    /** @throws SurveyStoreFull */
    public function keep(string $hash, PartMeasures $measures): void;

    /** Whether what is captured is of use later; otherwise only what somebody asks for is captured. */
    public function keepsCaptures(): bool;

    public function hasCapture(string $hash, string $stage): bool;

    /** Starts a capture; it becomes visible when it is closed. */
    public function capture(string $hash, string $stage): AudioCapture;

    /**
     * @param  int  $start  place the recording began at
     *
     * @throws SurveyStoreFull when it is no longer there
     */
    public function replay(string $hash, string $stage, int $start): Replay;

    /**
     * Removes the least recently used entries until at most this many bytes remain.
     *
     * @param  int  $spare  seconds for which what was used stays whatever the size
     */
    public function shrink(int $bytes, int $spare = 0): void;
}
