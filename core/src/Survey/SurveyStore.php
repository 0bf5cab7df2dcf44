<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\Replay;

/** Keeps what parts of surveys found and what they recorded, by their keys. */
interface SurveyStore
{
    /** Null when nothing is known of the key. */
    public function measures(string $hash): ?PartMeasures;

    /** @throws SurveyStoreFull */
    public function keep(string $hash, PartMeasures $measures): void;

    public function hasCapture(string $hash, string $stage): bool;

    /** Nobody sees the recording before it is closed. */
    public function capture(string $hash, string $stage): AudioCapture;

    /**
     * @param  int  $start  place the recording began at
     *
     * @throws SurveyStoreFull when it is no longer there
     */
    public function replay(string $hash, string $stage, int $start): Replay;

    /**
     * Takes away what was not used for longest until no more than so many bytes are left.
     *
     * @param  int  $spare  seconds for which what was used stays whatever the size
     */
    public function shrink(int $bytes, int $spare = 0): void;
}
