<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Metering\OverRegion;

/** What only the main is asked for. */
final readonly class MainFigures
{
    /**
     * @param  list<float>  $overview  highest sample in each of equally long ranges
     * @param  list<OverRegion>  $overs
     * @param  int  $samplesOver  in all, both sides counted
     */
    public function __construct(public array $overview, public array $overs, public int $samplesOver)
    {
    }
}
