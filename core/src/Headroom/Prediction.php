<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Edit\Json\EditRequest;

/** What a remedy, or several together, would make of a session: measured on the session they would make. */
final readonly class Prediction
{
    /**
     * @param  list<string>  $labels  one for each remedy
     * @param  ?float  $amount  dB, where the remedies go by one
     * @param  list<EditRequest>  $edits  all that is done
     * @param  bool  $verified  measured over the whole length; otherwise only around the loudest moment
     * @param  list<string>  $facts
     * @param  list<FedDifferently>  $fed  before what compensates them
     * @param  int  $compensated  how many of them are
     * @param  array<string, float>  $returns  dB by which what enters a return or a cue changes, by channel id, where it does
     * @param  ?float  $tone  see {@see ToneChange}; null is no change
     * @param  array<int, float>  $reductions  of a limiter that was put in, see TapReading
     */
    public function __construct(
        public array $labels,
        public ?float $amount,
        public array $edits,
        public bool $verified,
        public Levels $before,
        public Levels $after,
        public bool $reached,
        public array $facts,
        public array $fed,
        public int $compensated,
        public array $returns,
        public ?float $tone,
        public array $reductions,
    ) {
    }
}
