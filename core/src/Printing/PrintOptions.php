<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\SampleFormat;

/** A range that is printed, in samples of the session, with how much tail, in which format. */
final readonly class PrintOptions
{
    /** Formats people print to. */
    public const FORMATS = RenderOptions::FORMATS;

    /**
     * @param  int  $from  first sample
     * @param  ?int  $to  sample after the last; null is the session's end
     * @param  ?float  $tail  seconds after the range; null is as long as it is heard
     */
    public function __construct(
        public int $from = 0,
        public ?int $to = null,
        public ?float $tail = null,
        public SampleFormat $format = SampleFormat::Float32,
    ) {
    }
}
