<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\SampleFormat;
use Hafen\Engine\Tap;
use Hafen\Session\Session;

/** What is rendered: a tap, from one sample up to another, with some seconds of tail, in a format. */
final readonly class RenderOptions
{
    /** Seconds a render can last: a day. */
    public const LONGEST = 86_400;

    /** Formats people render to. */
    public const FORMATS = [SampleFormat::Int16, SampleFormat::Int24, SampleFormat::Float32];

    /**
     * @param  ?Tap  $tap  null is the main's output
     * @param  ?int  $to  sample after the last; null is the session's end
     * @param  float  $tail  seconds that follow
     */
    public function __construct(
        public SampleFormat $format = SampleFormat::Int24,
        public ?Tap $tap = null,
        public int $from = 0,
        public ?int $to = null,
        public float $tail = 0.0,
    ) {
    }

    /** Samples it lasts in a session, tail included. */
    public function frames(Session $session): int
    {
        return max(0, ($this->to ?? $session->length) - $this->from) + (int) round($this->tail * $session->sampleRate);
    }

    /** Bytes its file will have, about. */
    public function bytes(Session $session): int
    {
        return 1024 + 2 * $this->format->bytes() * $this->frames($session);
    }
}
