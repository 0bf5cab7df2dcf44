<?php

declare(strict_types=1);

namespace App\Remote;

use Hafen\Engine\Replay;
use Hafen\Survey\AudioCapture;
use Hafen\Survey\FolderStore;
use Hafen\Survey\PartMeasures;
use Hafen\Survey\SurveyStore;

/**
 * Measurements and captured audio that machines share: what counts is what lies on the shared disk. It is fetched from there when it is read, and put
 * there when it was measured; captured audio once its task has ended, see {@see takeMade()}.
 */
final class SharedStore implements SurveyStore
{
    /** @var list<string> places of measurements since it was last asked */
    private array $measured = [];

    /** @var array<string, true> places of captured audio, likewise */
    private array $captured = [];

    public function __construct(private readonly FolderStore $store, private readonly SharedFiles $files)
    {
    }

    /** @return array{list<string>, list<string>} places of measurements, and of captured audio, since it was last asked */
    public function takeMade(): array
    {
        $made = [$this->measured, array_map(strval(...), array_keys($this->captured))];
        $this->measured = $this->captured = [];

        return $made;
    }

    public function measures(string $hash): ?PartMeasures
    {
        $this->files->bring([self::place($hash)]);

        return $this->store->measures($hash);
    }

    public function keep(string $hash, PartMeasures $measures): void
    {
        $this->store->keep($hash, $measures);
        $this->files->share([self::place($hash)]);
        $this->measured[] = self::place($hash);
    }

    public function keepsCaptures(): bool
    {
        return true;
    }

    public function hasCapture(string $hash, string $stage): bool
    {
        return isset($this->captured[self::place($hash, $stage)]) ? $this->store->hasCapture($hash, $stage) : $this->files->has(self::place($hash, $stage));
    }

    public function capture(string $hash, string $stage): AudioCapture
    {
        $this->captured[self::place($hash, $stage)] = true;

        return $this->store->capture($hash, $stage);
    }

    public function replay(string $hash, string $stage, int $start): Replay
    {
        $this->files->bring([self::place($hash, $stage)]);

        return $this->store->replay($hash, $stage, $start);
    }

    public function shrink(int $bytes, int $spare = 0): void
    {
        $this->store->shrink($bytes, $spare);
    }

    private static function place(string $hash, ?string $stage = null): string
    {
        return 'surveys/'.FolderStore::name($hash, $stage);
    }
}
