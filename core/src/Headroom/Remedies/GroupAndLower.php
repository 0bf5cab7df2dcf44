<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Audio\Decibel;
use Hafen\Edit\Channel\NewChannels;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;
use Hafen\Session\Channel\Channel;

/** Puts a group between all that feeds the main and the main, and lowers it: no fader moves; only what is on the main is fed less. */
final readonly class GroupAndLower implements Remedy
{
    private const NAME = 'All';

    public function id(): string
    {
        return 'group-and-lower';
    }

    public function title(): string
    {
        return 'Group all and lower the group';
    }

    public function hasAmount(): bool
    {
        return true;
    }

    public function propose(Situation $situation, float $amount): ?Proposal
    {
        $main = $situation->session->main();
        $feeding = array_values(array_filter($situation->session->channels, static fn (Channel $channel): bool => $channel->output === $main->id));
        if ($feeding === []) {
            return null;
        }
        $group = $situation->session->freeChannelId(NewChannels::name($situation->session, self::NAME));

        return new Proposal(
            'Group all and lower the group '.Decibel::text(-$amount, 'dB', true),
            [
                EditRequest::groupChannels(Situation::ids($feeding), self::NAME),
                EditRequest::setFader([$group], max(-60.0, -$amount)),
            ],
            ['No fader, send or trim moves; one more channel to see to.'],
        );
    }
}
