<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\Replay;

/**
 * A store upon another: what is measured goes into the one below, which is small and may be of use again; what is recorded only
 * into the upper one, which can be thrown away.
 */
final readonly class LayeredStore implements SurveyStore
{
    public function __construct(private SurveyStore $below, private SurveyStore $above)
    {
    }

    public function measures(string $hash): ?PartMeasures
    {
        return $this->below->measures($hash);
    }

    public function keep(string $hash, PartMeasures $measures): void
    {
        $this->below->keep($hash, $measures);
    }

    public function keepsCaptures(): bool
    {
        return true;
    }

    public function hasCapture(string $hash, string $stage): bool
    {
        return $this->above->hasCapture($hash, $stage) || $this->below->hasCapture($hash, $stage);
    }

    public function capture(string $hash, string $stage): AudioCapture
    {
        return $this->above->capture($hash, $stage);
    }

    public function replay(string $hash, string $stage, int $start): Replay
    {
        return ($this->above->hasCapture($hash, $stage) ? $this->above : $this->below)->replay($hash, $stage, $start);
    }

    public function shrink(int $bytes, int $spare = 0): void
    {
        $this->above->shrink($bytes, $spare);
    }
}
