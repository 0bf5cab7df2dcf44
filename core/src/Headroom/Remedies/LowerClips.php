<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;

/** Turns all clips down by the same: as a trim does, but seen on the clips and carried by them wherever they go. */
final readonly class LowerClips implements Remedy
{
    public function id(): string
    {
        return 'lower-clips';
    }

    public function title(): string
    {
        return 'Lower all clips';
    }

    public function hasAmount(): bool
    {
        return true;
    }

    public function propose(Situation $situation, float $amount): ?Proposal
    {
        $tracks = Situation::ids($situation->sources());

        return $tracks === [] ? null : new Proposal(
            'Clip gain '.Decibel::text(-$amount, 'dB', true).' on every clip',
            [EditRequest::moveClipGains($tracks, -$amount)],
            ['Trims, faders, sends and automation stay.'],
        );
    }
}
