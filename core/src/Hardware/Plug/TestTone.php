<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

/** A sine of 1 kHz whose peaks are at -18 dBFS. */
final readonly class TestTone implements Plug
{
    private const FREQUENCY = 1000.0;

    private const LEVEL = 0.1258925411794167;

    public function __construct(private int $sampleRate)
    {
    }

    public function sound(int $at, int $frames): array
    {
        $step = 2 * M_PI * self::FREQUENCY / $this->sampleRate;
        $sound = [];
        for ($i = $at, $end = $at + $frames; $i < $end; ++$i) {
            $sound[] = self::LEVEL * sin($step * ($i % $this->sampleRate));
        }

        return $sound;
    }
}
