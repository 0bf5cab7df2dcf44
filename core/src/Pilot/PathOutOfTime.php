<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Routing\Combs;

/** A path that is not lined up with what it meets: equal sound cancels at the notch that makes. */
final readonly class PathOutOfTime implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach (Combs::of($facts->session, $facts->processors, $facts->alignment) as $comb) {
            $where = $comb->split === null ? "at {$comb->where}" : 'between its branches';
            $advice[$comb->channel.$comb->split] ??= new Advice('path-out-of-time', Severity::Severe, $comb->channel, $comb->split,
                sprintf('%s is %d samples out of time %s: equal sound cancels at %.0f Hz first.', $facts->name($comb->channel), abs($comb->samples), $where, $comb->firstNotch()),
                new Fix('Line up', EditRequest::setAligned([$comb->channel], true)));
        }

        return array_values($advice);
    }
}
