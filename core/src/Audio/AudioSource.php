<?php

declare(strict_types=1);

namespace Hafen\Audio;

/** Sound that can be read from any place, in any order. */
interface AudioSource
{
    /** Samples per second. */
    public function sampleRate(): int;

    /** Number of channels, at least 1. */
    public function channels(): int;

    /** Length in frames. */
    public function frames(): int;

    /**
     * Frames from a place on; places before the start and after the end are silence.
     *
     * @return list<list<float>> one list of exactly $count samples per channel
     *
     * @throws UnreadableAudioFile when the file behind it can no longer be read
     */
    public function read(int $from, int $count): array;
}
