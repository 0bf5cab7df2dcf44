<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** Where a processor runs: samples per second, beats per minute for times in note values, and the recordings it may use. */
final readonly class Setting
{
    public function __construct(public int $sampleRate, public float $tempo, public ?AudioFiles $audioFiles = null)
    {
    }
}
