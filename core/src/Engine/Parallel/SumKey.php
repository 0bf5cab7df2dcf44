<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Engine\PartialSum;

/** Names a part of what feeds a bus: what comes from some banks of channels. */
final readonly class SumKey
{
    /**
     * @param  string  $bus  channel id
     * @param  int  $first  bank
     * @param  int  $count  of banks
     */
    public function __construct(public string $bus, public int $first, public int $count)
    {
    }

    /** The banks, as {@see PartialSum} names them. */
    public function banks(): string
    {
        return PartialSum::key($this->first, $this->count);
    }

    public function has(int $bank): bool
    {
        return $bank >= $this->first && $bank < $this->first + $this->count;
    }

    public function id(): string
    {
        return "{$this->bus}:{$this->banks()}";
    }
}
