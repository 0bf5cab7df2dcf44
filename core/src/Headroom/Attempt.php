<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Rework\Remeasured;
use Hafen\Session\Session;

/** One try of a remedy at some amount, on its way to a prediction. */
final readonly class Attempt
{
    /**
     * @param  Session  $session  that the edits make
     * @param  list<string>  $labels
     * @param  list<EditRequest>  $edits
     * @param  list<string>  $facts
     * @param  float  $amount  dB in all
     * @param  list<EditRequest>  $compensating  edits that follow
     */
    public function __construct(
        public Session $session,
        public array $labels,
        public array $edits,
        public array $facts,
        public float $amount,
        public array $compensating = [],
        public ?Levels $levels = null,
        public ?Remeasured $proof = null,
    ) {
    }

    /** @param  ?Remeasured  $proof  where it was measured over the whole length */
    public function measured(Levels $levels, ?Remeasured $proof = null): self
    {
        return new self($this->session, $this->labels, $this->edits, $this->facts, $this->amount, $this->compensating, $levels, $proof);
    }

    /** @param  list<EditRequest>  $edits */
    public function compensatedBy(array $edits, Session $session): self
    {
        return new self($session, $this->labels, $this->edits, $this->facts, $this->amount, $edits);
    }
}
