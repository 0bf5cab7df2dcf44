<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Audio\Block;
use Hafen\Engine\Strip;

/** A channel strip that another process works: what it said of itself, and what it passes on. */
final class RemoteStrip implements Strip
{
    /** @var array<string, true> stages others take from */
    private array $kept = [];

    private StripFacts $facts;

    /** @var array<string, Block> what passes in this block, by stage, once somebody took it */
    private array $passing = [];

    public function __construct(private readonly string $id, private readonly RemoteSection $section)
    {
        $this->facts = new StripFacts;
    }

    public function id(): string
    {
        return $this->id;
    }

    public function keep(string $stage): void
    {
        $this->kept[$stage] = true;
    }

    /** Forgets who took from it: a session is compiled anew. */
    public function keepNothing(): void
    {
        $this->kept = [];
    }

    /** @return list<string> stages */
    public function kept(): array
    {
        return array_map(strval(...), array_keys($this->kept));
    }

    public function passing(string $stage, int $frames): Block
    {
        return $this->passing[$stage] ??= $this->section->passing($this->id, $stage) ?? Block::silence($frames);
    }

    /** Another block is there. */
    public function goOn(): void
    {
        $this->passing = [];
    }

    public function describe(StripFacts $facts): void
    {
        $this->facts = $facts;
    }

    public function stages(): array
    {
        return $this->facts->stages;
    }

    public function latency(): int
    {
        return $this->facts->latency;
    }

    public function isFrozen(): bool
    {
        return $this->facts->isFrozen;
    }

    public function tail(array $others): int
    {
        return $this->facts->tail;
    }
}
