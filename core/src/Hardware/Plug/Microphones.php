<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

/**
 * The browsers' microphones at an interface: read with its blocks, and how late each comes. Who sings into one sings along with what the browser
 * plays, so what comes in belongs to what was heard then.
 */
final class Microphones
{
    /** Seconds one can come late. */
    private const LATEST = 5.0;

    /** Samples by which what a page tells of what it plays may be off. */
    private const UNEVEN = 16;

    /** @var array<int, Microphone> by port */
    private array $microphones = [];

    /** @var array<int, int> samples by which they come later than the interface makes them, by port */
    private array $lateness = [];

    /** @var array<int, int> clock of the block each was read for last, by port */
    private array $readAt = [];

    /** @var ?array{int, int} clock of the block that went out last, and its position in the session; null while nothing plays */
    private ?array $playedAt = null;

    /** @param  int  $roundTrip  samples a sound that goes out takes to come in again */
    public function __construct(private readonly int $sampleRate, private readonly int $roundTrip)
    {
    }

    public function add(int $port, Microphone $microphone): void
    {
        $this->microphones[$port] = $microphone;
    }

    public function remove(int $port): void
    {
        unset($this->microphones[$port], $this->lateness[$port], $this->readAt[$port]);
    }

    /**
     * @param  int  $clock  of the block
     * @return ?list<float> null where no microphone is at the port
     */
    public function read(int $port, int $clock, int $frames): ?array
    {
        $sound = ($this->microphones[$port] ?? null)?->sound(0, $frames);
        if ($sound !== null) {
            $this->readAt[$port] = $clock;
            // It may be read before its block goes out, or after.
            $this->measure($port);
        }

        return $sound;
    }

    /** @param  ?int  $position  in the session of the block's first sample; null while nothing plays */
    public function played(int $clock, ?int $position): void
    {
        $this->playedAt = $position === null ? null : [$clock, $position];
        array_map($this->measure(...), array_keys($this->microphones));
    }

    /** Null while it is not known. */
    public function lateness(int $port): ?int
    {
        return $this->lateness[$port] ?? null;
    }

    /** From the next block on; how late it is then is found out anew. */
    public function keep(int $port, bool $isKept): void
    {
        ($this->microphones[$port] ?? null)?->keep($isKept);
        unset($this->lateness[$port], $this->readAt[$port]);
    }

    /** @return list<float> see {@see Microphone::rest()} */
    public function rest(int $port, int $frames): array
    {
        return ($this->microphones[$port] ?? null)?->rest($frames) ?? array_fill(0, $frames, 0.0);
    }

    /** @return array<int, float> seconds from each that is open to the engine, by port */
    public function ages(): array
    {
        return array_filter(array_map(static fn (Microphone $microphone): ?float => $microphone->age(), $this->microphones), is_float(...));
    }

    private function measure(int $port): void
    {
        $heard = $this->microphones[$port]->heard();
        if ($heard === null || $this->playedAt === null || ($this->readAt[$port] ?? null) !== $this->playedAt[0]) {
            return;
        }
        $late = (int) round($this->playedAt[1] - $this->roundTrip - $heard);
        if (abs($late) > self::LATEST * $this->sampleRate) {
            // What was heard is from before a jump.
            return;
        }
        if (! $this->microphones[$port]->isKept() || ! isset($this->lateness[$port])) {
            $this->lateness[$port] = $late;
        } elseif (abs($late - $this->lateness[$port]) > self::UNEVEN) {
            $this->microphones[$port]->advance($late - $this->lateness[$port]);
        }
    }
}
