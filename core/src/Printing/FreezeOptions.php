<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\SampleFormat;

/** How a channel is frozen: with how much tail, in which format. */
final readonly class FreezeOptions
{
    /** Formats a freeze can have: what plays is not cut off at full scale. */
    public const FORMATS = [SampleFormat::Float32, SampleFormat::Float64];

    /** @param  ?float  $tail  seconds after the session's end; null is as long as it is heard */
    public function __construct(public ?float $tail = null, public SampleFormat $format = SampleFormat::Float32)
    {
    }
}
