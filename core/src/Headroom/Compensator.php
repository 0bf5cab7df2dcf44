<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Rework\Remeasured;
use Hafen\Headroom\Rework\Remeasurement;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Survey\TimeRange;

/** Finds the edits by which level-dependent inserts do what they did before others made what feeds them louder or quieter. */
final readonly class Compensator
{
    /** @param  Remeasured  $reference  the session as it is over the range */
    public function __construct(private Remeasurement $passage, private TimeRange $range, private Remeasured $reference)
    {
    }

    /** @return list<EditRequest> none where none can be made */
    public function edits(Situation $situation, Session $after): array
    {
        $now = $this->passage->of($situation->session, $after, $this->range, true);
        assert($now !== null);
        $edits = [];
        foreach (FedDifferently::among($situation, $after, $this->reference->taps, $now) as $fed) {
            $insert = $situation->session->locate($fed->insert)?->insert;
            $edit = $insert instanceof ProcessorInsert ? Compensation::edit($insert, $situation->spec($insert), $fed->by) : null;
            if ($edit !== null) {
                $edits[] = $edit;
            }
        }

        return $edits;
    }
}
