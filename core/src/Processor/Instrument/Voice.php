<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

/** One note that sounds. */
interface Voice
{
    /**
     * Adds the next frames of it to sound.
     *
     * @param  list<float>  $sound
     * @param  float  $bend  semitones by which the pitch wheel moves it
     * @return list<float>
     */
    public function add(array $sound, int $from, int $to, float $bend): array;

    public function release(): void;

    /** Falls silent within a few milliseconds: another note needs its place, or all notes are off. */
    public function choke(): void;

    public function isReleased(): bool;

    public function isOver(): bool;
}
