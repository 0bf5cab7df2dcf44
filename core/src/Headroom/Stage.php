<?php

declare(strict_types=1);

namespace Hafen\Headroom;

/** A stage of a path where its level is known. */
final readonly class Stage
{
    /** dBFS above which a level is over. */
    public const FULL_SCALE = 0.0;

    /**
     * @param  string  $tap  "channel:stage", whose level it is
     * @param  float  $offset  dB to add to the level of the tap
     * @param  bool  $levelDependent  does otherwise when it is fed otherwise
     * @param  string  $shortName  of an effect, where there is no room for its label
     * @param  bool  $isFixed  holds nothing above 0 dBFS: what comes in or goes out as whole numbers
     */
    public function __construct(
        public string $channel,
        public string $tap,
        public string $label,
        public float $offset = 0.0,
        public bool $levelDependent = false,
        public bool $isFixed = false,
        public string $shortName = '',
    ) {
    }

    /** What a level above full scale is here: floating point keeps it, whole numbers do not. */
    public function aboveFullScale(): string
    {
        return $this->isFixed ? 'clip' : 'over';
    }
}
