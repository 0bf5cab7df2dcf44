<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\SampleFormat;
use Hafen\Engine\Tap;

/** What is rendered: a tap, from one sample up to another, with some seconds of tail, in a format. */
final readonly class RenderOptions
{
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
}
