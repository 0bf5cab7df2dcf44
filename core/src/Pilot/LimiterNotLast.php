<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Insert\ProcessorInsert;

/** A limiter on the main that something comes after: what follows it can lift the sound above its ceiling again. */
final readonly class LimiterNotLast implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $main = $facts->session->main();
        $advice = [];
        $before = SessionFacts::working($main, $main->inserts);
        foreach ($before as $index => $insert) {
            $next = $before[$index + 1] ?? null;
            if ($insert->processor === 'limiter' && $next !== null) {
                $advice[] = $this->adviceOn($facts, $insert, "{$facts->spec($next)->name} comes after the limiter on {$main->name} and can lift the sound above its ceiling.");
            }
        }
        foreach (SessionFacts::working($main, $main->postInserts) as $insert) {
            if ($insert->processor === 'limiter') {
                $advice[] = $this->adviceOn($facts, $insert, "The limiter on {$main->name} stands after the fader: a fade-out would change how it limits.");
            }
        }
        $last = $before === [] ? null : $before[count($before) - 1];
        if ($last?->processor === 'limiter' && $main->fader !== null && $main->fader > 0.0) {
            $advice[] = new Advice('limiter-not-last', Severity::Severe, $main->id, $last->id,
                sprintf('The fader of %s stands at +%.1f dB after the limiter and lifts the sound above its ceiling.', $main->name, $main->fader),
                new Fix('Set the fader to 0.0', EditRequest::setFader([$main->id], 0.0)));
        }

        return $advice;
    }

    private function adviceOn(SessionFacts $facts, ProcessorInsert $limiter, string $text): Advice
    {
        $main = $facts->session->main();

        return new Advice('limiter-not-last', Severity::Severe, $main->id, $limiter->id, $text,
            new Fix('Put it last', EditRequest::moveInsert($limiter->id, $main->id)));
    }
}
