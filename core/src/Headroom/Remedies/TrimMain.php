<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;

/** Trims what enters the main: everything before it stays as it is. */
final readonly class TrimMain implements Remedy
{
    public function id(): string
    {
        return 'trim-main';
    }

    public function title(): string
    {
        return 'Trim the main';
    }

    public function hasAmount(): bool
    {
        return true;
    }

    public function propose(Situation $situation, float $amount): Proposal
    {
        $main = $situation->session->main();

        return new Proposal(
            "Trim {$main->name} ".Decibel::text(-$amount, 'dB', true),
            [EditRequest::moveTrims([$main->id], -$amount)],
            ['Everything before it stays as loud as it is.'],
        );
    }
}
