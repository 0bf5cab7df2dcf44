<?php

declare(strict_types=1);

namespace Hafen\Metering;

/** The level range of a band: RMS in dBFS over windows of about 0.1 s; null is silence. */
final readonly class BandRange
{
    /**
     * @param  ?float  $now  in the last window
     * @param  ?float  $quiet  below which it lies one tenth of the time it sounds
     * @param  ?float  $loud  above which it lies one twentieth of the time
     */
    public function __construct(public ?float $now, public ?float $quiet, public ?float $loud)
    {
    }

    /** dB between the quiet and the loud moments. */
    public function dynamics(): float
    {
        return $this->quiet === null || $this->loud === null ? 0.0 : $this->loud - $this->quiet;
    }
}
