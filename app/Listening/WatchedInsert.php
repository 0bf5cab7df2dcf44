<?php

declare(strict_types=1);

namespace App\Listening;

use Hafen\Engine\Engine;
use Hafen\Headroom\InsertWatch;
use Hafen\Metering\BandRange;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** The insert whose sound is looked at by frequency, before it and after it, while it plays. */
final class WatchedInsert
{
    private ?InsertWatch $watch = null;

    public function __construct(private readonly ProcessorCatalogue $processors)
    {
    }

    public function isOn(): bool
    {
        return $this->watch !== null;
    }

    /**
     * Watches an insert from now on.
     *
     * @param  ?string  $insert  id; none is watched when it is null, not there or no processor
     */
    public function at(?string $insert, Session $session, Engine $engine): void
    {
        $this->watch = null;
        $engine->watch();
        if ($insert !== null && $session->locate($insert)?->insert instanceof ProcessorInsert) {
            $this->watch = new InsertWatch($session, $insert, $this->processors);
            $engine->watch(...$this->watch->taps());
        }
    }

    /** Goes on with a changed session, or begins anew where the insert came or went. */
    public function keep(?string $insert, Session $session, Engine $engine): void
    {
        if ($this->watch === null || ! $session->locate($this->watch->insert)?->insert instanceof ProcessorInsert) {
            $this->at($insert, $session, $engine);

            return;
        }
        $this->watch->follow($session);
        $engine->watch(...$this->watch->taps());
    }

    /** Takes in the block that the engine made last. */
    public function look(Engine $engine): void
    {
        if ($this->watch === null) {
            return;
        }
        $watched = array_values($engine->watched());
        if (count($watched) === 2) {
            $this->watch->look(...$watched);
        }
    }

    /** @return array<string, mixed> */
    public function notice(): array
    {
        $watch = $this->watch;
        $shown = static fn (BandRange $range): array => array_map(
            static fn (?float $level): ?float => $level === null ? null : round($level, 1),
            [$range->now, $range->quiet, $range->loud],
        );

        return $watch === null ? [] : [
            'kind' => 'watch',
            'insert' => $watch->insert,
            'frequencies' => array_map(static fn (float $frequency): float => round($frequency, 1), $watch->frequencies()),
            'before' => array_map($shown, $watch->before()),
            'after' => array_map($shown, $watch->after()),
            'bands' => (object) array_map($shown, $watch->bands()),
        ];
    }
}
