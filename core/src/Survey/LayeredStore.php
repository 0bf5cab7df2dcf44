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

    public function measures(string $key): ?PartMeasures
    {
        return $this->below->measures($key);
    }

    public function keep(string $key, PartMeasures $measures): void
    {
        $this->below->keep($key, $measures);
    }

    public function hasRecording(string $key, string $stage): bool
    {
        return $this->above->hasRecording($key, $stage) || $this->below->hasRecording($key, $stage);
    }

    public function record(string $key, string $stage): Recorder
    {
        return $this->above->record($key, $stage);
    }

    public function replay(string $key, string $stage, int $start): Replay
    {
        return ($this->above->hasRecording($key, $stage) ? $this->above : $this->below)->replay($key, $stage, $start);
    }

    public function shrink(int $bytes, int $spare = 0): void
    {
        $this->above->shrink($bytes, $spare);
    }
}
