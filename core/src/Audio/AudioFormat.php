<?php

declare(strict_types=1);

namespace Hafen\Audio;

/** What a range of sound is: samples per second, channels, and how a sample is written. */
final readonly class AudioFormat
{
    public function __construct(
        public int $sampleRate,
        public int $channels,
        public SampleFormat $samples,
    ) {
    }

    public function bytesPerFrame(): int
    {
        return $this->channels * $this->samples->bytes();
    }
}
