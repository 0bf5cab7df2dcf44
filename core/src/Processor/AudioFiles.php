<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** Finds recorded sound a processor works with, such as the response of a room. */
interface AudioFiles
{
    /** Whether there is one that looks as if it can be read. */
    public function has(string $file): bool;

    /**
     * Both sides at a sample rate, at most so many samples; null when the recording cannot be read.
     *
     * @return ?array{list<float>, list<float>}
     */
    public function read(string $file, int $sampleRate, int $longest): ?array;
}
