<?php

declare(strict_types=1);

namespace Hafen\Hardware;

/** Has an audio interface run at the clock: each block is there once it was played, as units of outboard run in real time only. */
final class RealTimeInterface implements AudioInterface
{
    private ?float $started = null;

    private int $frames = 0;

    public function __construct(private readonly AudioInterface $interface, private readonly int $sampleRate)
    {
    }

    public function latency(): InterfaceLatency
    {
        return $this->interface->latency();
    }

    public function longestBlock(): int
    {
        return $this->interface->longestBlock();
    }

    public function capture(int $frames): void
    {
        $this->started ??= microtime(true);
        $ahead = $this->frames / $this->sampleRate - (microtime(true) - $this->started);
        if ($ahead > 0.001) {
            usleep((int) ($ahead * 1_000_000));
        } elseif ($ahead < 0.0) {
            // What came late is not made up for: the clock does not run faster.
            $this->started -= $ahead;
        }
        $this->frames += $frames;
        $this->interface->capture($frames);
    }

    public function input(int $port): array
    {
        return $this->interface->input($port);
    }

    public function lateness(int $port): ?int
    {
        return $this->interface->lateness($port);
    }

    public function keepLateness(int $port, bool $isKept): void
    {
        $this->interface->keepLateness($port, $isKept);
    }

    public function rest(int $port, int $frames): array
    {
        return $this->interface->rest($port, $frames);
    }

    public function play(array $outputs, int $frames, ?int $position): void
    {
        $this->interface->play($outputs, $frames, $position);
    }

    public function readings(): array
    {
        return $this->interface->readings();
    }
}
