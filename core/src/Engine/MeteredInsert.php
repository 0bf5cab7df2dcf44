<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Metering\Meter;

/** For runners of one insert in which no others stand: with `id`, a `meter` behind it, and the time it took. */
trait MeteredInsert
{
    private readonly Meter $meter;

    private int $nanoseconds = 0;

    public function stages(): array
    {
        return ["insert:{$this->id}" => $this->latency()];
    }

    public function meters(): array
    {
        return ["insert:{$this->id}" => $this->meter];
    }

    public function meter(): Meter
    {
        return $this->meter;
    }

    public function runners(): array
    {
        return ["insert:{$this->id}" => $this];
    }

    public function takeNanoseconds(): int
    {
        $nanoseconds = $this->nanoseconds;
        $this->nanoseconds = 0;

        return $nanoseconds;
    }
}
