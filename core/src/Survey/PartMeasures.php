<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\Fault;
use Hafen\Metering\TapReading;

/** What one part of a survey found. */
final readonly class PartMeasures
{
    /**
     * @param  array<string, TapReading>  $taps  by tap key, "channel:stage"
     * @param  array<string, float>  $loads  of one core: of the channel's share in this part by its id, of inserts by tap key
     * @param  list<Fault>  $faults
     * @param  ?SourceFigures  $source  of a part up to the fader
     * @param  ?OutputFigures  $output  of a part from the fader on
     * @param  ?MainFigures  $main  of the main from the fader on
     */
    public function __construct(
        public array $taps,
        public array $loads,
        public array $faults,
        public ?SourceFigures $source = null,
        public ?OutputFigures $output = null,
        public ?MainFigures $main = null,
    ) {
    }
}
