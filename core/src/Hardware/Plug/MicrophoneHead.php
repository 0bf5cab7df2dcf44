<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

/** What is known of the sound in a microphone's pipe. Frames are counted from the beginning of its capture. */
final readonly class MicrophoneHead
{
    /** Seconds after which a page that sends nothing is gone. */
    private const PATIENCE = 3.0;

    /** Frames from a moment that was told for which it still holds. */
    private const HOLDS = 960_000;

    /**
     * @param  string  $id  of the capture, 16 letters
     * @param  int  $written  frames that came so far
     * @param  int  $at  frame the times are of
     * @param  float  $captured  when it was captured, in seconds since 1970
     * @param  ?float  $heard  sample of the session that was heard then; null while nothing played
     */
    public function __construct(public string $id, public int $rate, public int $written, public int $at, public float $captured, public ?float $heard)
    {
    }

    /** Sample of the session that was heard while a frame was captured; null where that is not known. */
    public function heardAt(int $frame): ?float
    {
        return $this->heard === null || abs($frame - $this->at) > self::HOLDS ? null : $this->heard + $frame - $this->at;
    }

    /** Seconds since a frame was captured. */
    public function age(int $frame, float $now): float
    {
        return $now - $this->captured - ($frame - $this->at) / $this->rate;
    }

    /** Whether the page still sends. */
    public function isOpen(float $now): bool
    {
        return $this->age($this->written, $now) < self::PATIENCE;
    }
}
