<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\AimFigure;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;
use Hafen\Session\Insert\ProcessorInsert;

/** A limiter as the last insert before the main's fader, with its ceiling where the aim is. */
final readonly class LimitLast implements Remedy
{
    private const LOWEST_CEILING = -24.0;

    public function id(): string
    {
        return 'limit-last';
    }

    public function title(): string
    {
        return 'Limiter last';
    }

    public function hasAmount(): bool
    {
        return false;
    }

    public function propose(Situation $situation, float $amount): ?Proposal
    {
        $main = $situation->session->main();
        $ceiling = round($situation->aim->level - ($main->fader ?? 0.0), 2);
        if ($situation->aim->figure === AimFigure::Loudness || $main->fader === null || $ceiling < self::LOWEST_CEILING || $ceiling > 0.0 || ! $main->insertsOn) {
            return null;
        }
        $truePeak = $situation->aim->figure === AimFigure::TruePeak;
        $parameters = ['ceiling' => $ceiling, 'true-peak' => $truePeak];
        $last = $main->inserts === [] ? null : $main->inserts[count($main->inserts) - 1];
        $edit = $last instanceof ProcessorInsert && $last->processor === 'limiter' && $last->on && $last->mix === 1.0
            ? EditRequest::setParameters($last->id, [...$last->parameters, ...$parameters])
            : EditRequest::addInsert([$main->id], 'limiter', $parameters);

        return new Proposal(
            "Limiter last on {$main->name}, ceiling ".Decibel::text($ceiling, 'dB'),
            [$edit],
            ['Before the fader, so that a fade-out does not change it.'],
        );
    }
}
