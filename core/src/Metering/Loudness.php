<?php

declare(strict_types=1);

namespace Hafen\Metering;

/** What a loudness meter read: LUFS, the range in LU; null where it was too short or silent. */
final readonly class Loudness
{
    public function __construct(
        public ?float $integrated,
        public ?float $range,
        public ?float $highestMomentary,
        public ?float $highestShortTerm,
    ) {
    }
}
