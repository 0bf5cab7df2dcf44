<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** Where a processor runs: samples per second, and beats per minute for times in note values. */
final readonly class Setting
{
    public function __construct(public int $sampleRate, public float $tempo)
    {
    }
}
