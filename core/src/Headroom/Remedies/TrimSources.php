<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;

/** Trims all tracks by the same: faders, sends and automation stay as they are. */
final readonly class TrimSources implements Remedy
{
    public function id(): string
    {
        return 'trim-sources';
    }

    public function title(): string
    {
        return 'Trim all sources';
    }

    public function hasAmount(): bool
    {
        return true;
    }

    public function propose(Situation $situation, float $amount): ?Proposal
    {
        $tracks = Situation::ids($situation->sources());

        return $tracks === [] ? null : new Proposal(
            'Trim every source '.Decibel::text(-$amount, 'dB', true),
            [EditRequest::moveTrims($tracks, -$amount)],
            ['Faders, sends and automation stay.'],
        );
    }
}
