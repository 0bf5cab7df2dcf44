<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Routing\BranchSum;
use Hafen\Routing\NoteReach;
use Hafen\Session\Insert\Split;

/** Branches that carry the same and are louder together than what went in. */
final readonly class EqualBranches implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        $reach = new NoteReach($facts->processors);
        foreach ($facts->session->channels as $channel) {
            $played = $reach->splits($channel);
            foreach ($channel->insertsOn ? $channel->allInserts() : [] as $split) {
                $sum = $split instanceof Split && $split->on ? BranchSum::of($split, in_array($split->id, $played, true)) : null;
                if ($sum === null || ! $sum->equal || $sum->rise === null || abs($sum->rise) < 0.05) {
                    continue;
                }
                $advice[] = new Advice('equal-branches', Severity::Advice, $channel->id, $split->id(),
                    sprintf('Equal branches of %s add %.2f dB.', $channel->name, $sum->rise),
                    new Fix('Keep the level', EditRequest::keepLevel($split->id())));
            }
        }

        return $advice;
    }
}
