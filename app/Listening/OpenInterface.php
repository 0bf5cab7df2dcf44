<?php

declare(strict_types=1);

namespace App\Listening;

use App\Hardware\InterfaceDesk;
use Hafen\Audio\Decibel;
use Hafen\Engine\Monitoring;
use Hafen\Hardware\AudioInterface;
use Hafen\Hardware\InputReading;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Session;
use Illuminate\Database\QueryException;

/** The audio interface while somebody listens: goes along with how it is set, tells levels, and keeps which inputs clipped. */
final class OpenInterface
{
    /** Seconds between two times clipped samples are kept. */
    private const KEPT_EVERY = 1.0;

    private ?SimulatedInterface $interface = null;

    private int $setting = 0;

    /** Frames of the buffer it was set to when it was opened. */
    private int $buffer = 0;

    private bool $gathers = false;

    /** @var array<int, int> samples that were clipped and are not kept yet, by port */
    private array $clipped = [];

    private float $kept = 0.0;

    public function __construct(private readonly InterfaceDesk $desk)
    {
    }

    /**
     * Where nobody hears a live input, longer blocks are gathered for what goes through hardware, or is recorded.
     *
     * @param  Session  $session  as it is heard
     * @param  bool  $records  an input is recorded from the beginning
     */
    public function open(Session $session, bool $records): AudioInterface
    {
        $this->setting = $this->desk->changeNumber();
        $this->buffer = $this->desk->profile()->buffer;
        $this->gathers = ! Monitoring::isLive($session) && ($records || UnitPlaces::of($session) !== []);
        $this->interface = $this->desk->open($session->sampleRate, $session->tempo, $this->gathers);

        return $this->interface;
    }

    public function interface(): ?AudioInterface
    {
        return $this->interface;
    }

    /** Reads all inputs, as somebody looks at their levels; otherwise only those that are heard or recorded. */
    public function readAll(bool $readsAll): void
    {
        $this->interface?->readAll($readsAll);
    }

    /** Frames of its blocks; null where it is not open. */
    public function buffer(): ?int
    {
        return $this->interface?->latency()->buffer;
    }

    /** Milliseconds by which a live input is heard later than it should be, as longer blocks are gathered. */
    public function lateBy(Session $session): float
    {
        return $this->gathers && Monitoring::isLive($session) ? 2000.0 * (($this->buffer() ?? $this->buffer) - $this->buffer) / $session->sampleRate : 0.0;
    }

    /**
     * Goes on as it is set now.
     *
     * @param  int  $setting  number of the setting
     * @return ?array{kind: 'interface-set', isSame: bool} what to tell where it is set otherwise; with another buffer it is not the same, and all has to begin anew
     */
    public function follow(int $setting): ?array
    {
        if ($this->interface === null || $setting === $this->setting) {
            return null;
        }
        $this->setting = $setting;
        $profile = $this->desk->profile();
        $this->interface->configure($profile);

        return ['kind' => 'interface-set', 'isSame' => $profile->buffer === $this->buffer];
    }

    /** @return array{kind: 'inputs', ports: object, late: object} peak and average in dBFS, and samples that were clipped, since last told, by port; seconds from a browser's microphone to here, by port */
    public function notice(): array
    {
        $readings = $this->interface?->readings() ?? [];
        foreach ($readings as $port => $reading) {
            if ($reading->clipped > 0) {
                $this->clipped[$port] = ($this->clipped[$port] ?? 0) + $reading->clipped;
            }
        }
        if (microtime(true) - $this->kept > self::KEPT_EVERY) {
            $this->keepClipped();
        }

        return ['kind' => 'inputs', 'ports' => (object) array_map(static fn (InputReading $reading): array => [
            self::rounded(Decibel::fromGain($reading->peak)), self::rounded(Decibel::fromGain(sqrt($reading->meanSquare))), $reading->clipped,
        ], $readings), 'late' => (object) array_map(static fn (float $seconds): float => round($seconds, 3), $this->interface?->microphones() ?? [])];
    }

    /** Keeps which inputs clipped; where the database is busy, with the next. */
    public function keepClipped(): void
    {
        $this->kept = microtime(true);
        if ($this->clipped === []) {
            return;
        }
        try {
            $this->desk->clipped($this->clipped);
            $this->clipped = [];
        } catch (QueryException) {
            // Sound comes first.
        }
    }

    private static function rounded(?float $level): ?float
    {
        return $level === null ? null : round($level, 1);
    }
}
