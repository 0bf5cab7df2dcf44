<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Metering\Loudness;
use Hafen\Metering\Spectrum;

/** Measurements of a channel's output. */
final readonly class OutputFigures
{
    /**
     * @param  ?float  $truePeak  in dBTP; null is silence
     * @param  ?float  $correlation  of the sides, -1 to 1; null where one of them is silent
     * @param  ?Spectrum  $low  after the fader, up to 600 Hz; null where it is that before the fader but for gains
     */
    public function __construct(public Loudness $loudness, public ?float $truePeak, public ?float $correlation, public ?Spectrum $low)
    {
    }
}
