<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Metering\OverRegion;

/** What a file of whole numbers would lose: how far above full scale, how many samples, and where. */
final readonly class WouldClip
{
    /**
     * @param  float  $peak  dBFS, above 0
     * @param  ?int  $first  sample of the session
     * @param  list<OverRegion>  $places  where they are known: of the main
     */
    public function __construct(public float $peak, public int $samples, public ?int $first, public array $places)
    {
    }
}
