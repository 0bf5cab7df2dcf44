<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\Fault;
use Hafen\Headroom\LoudestMoment;
use Hafen\Metering\Loudness;
use Hafen\Metering\TapReading;

/** A session measured over its whole length. */
final readonly class SurveyResult
{
    /**
     * @param  array<string, TapReading>  $taps  by tap key, "channel:stage"
     * @param  list<float>  $overview  largest sample of the main in each of equally long stretches
     * @param  array<string, float>  $loads  of one core, by channel id and insert tap key
     * @param  list<Fault>  $faults
     * @param  Loudness  $loudness  of the main
     * @param  ?float  $truePeak  of the main in dBTP; null is silence
     * @param  ?LoudestMoment  $loudest  of what enters the main; null when nothing does
     */
    public function __construct(
        public int $frames,
        public array $taps,
        public array $overview,
        public array $loads,
        public array $faults,
        public Loudness $loudness,
        public ?float $truePeak,
        public ?LoudestMoment $loudest,
    ) {
    }
}
