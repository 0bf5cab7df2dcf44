<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;
use Hafen\Routing\Route;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\FaderScale;
use Hafen\Session\Channel\TapPoint;

/**
 * Moves the faders of all tracks by the same, and those of returns that are fed before a fader or at the source, which would
 * else stay. Their relations stay; low positions are coarser to set.
 */
final readonly class LowerFaders implements Remedy
{
    public function id(): string
    {
        return 'lower-faders';
    }

    public function title(): string
    {
        return 'Lower all faders';
    }

    public function hasAmount(): bool
    {
        return true;
    }

    public function propose(Situation $situation, float $amount): ?Proposal
    {
        // A track that follows another's fader comes down with it.
        $tracks = array_filter($situation->tracks(), static fn (Channel $channel): bool => $channel->source->tapped()?->tap !== TapPoint::PostFader);
        $faders = [...$tracks, ...self::fedBeforeFaders($situation)];
        $moving = array_values(array_filter($faders, static fn (Channel $channel): bool => $channel->fader !== null));
        if ($moving === []) {
            return null;
        }
        $lowest = array_reduce($moving, static fn (?Channel $least, Channel $channel): Channel => $least === null || $channel->fader < $least->fader ? $channel : $least);
        assert($lowest !== null && $lowest->fader !== null);
        $after = max(FaderScale::LOWEST, $lowest->fader - $amount);

        return new Proposal(
            'Lower all faders '.Decibel::text(-$amount, 'dB', true),
            [EditRequest::moveFaders(Situation::ids($moving), -$amount)],
            [...self::automated($moving, $amount), sprintf(
                '%s at %s: a hundredth of its travel is %.2f dB, now %.2f.',
                $lowest->name,
                Decibel::text($after, 'dB', true),
                FaderScale::resolutionAt($after),
                FaderScale::resolutionAt($lowest->fader),
            )],
        );
    }

    /**
     * @param  list<Channel>  $moving
     * @return list<string>
     */
    private static function automated(array $moving, float $amount): array
    {
        $names = [];
        $lowest = FaderScale::HIGHEST;
        foreach ($moving as $channel) {
            $values = $channel->lane('fader')?->values() ?? [];
            if ($values !== []) {
                $names[] = $channel->name;
                $lowest = min($lowest, ...$values);
            }
        }

        return $names === [] ? [] : [sprintf(
            'Automation of %s moves along and keeps its shape; where it is lowest, at %s, a hundredth of the travel is %.2f dB.',
            implode(', ', $names),
            Decibel::text(max(FaderScale::LOWEST, $lowest - $amount), 'dB', true),
            FaderScale::resolutionAt(max(FaderScale::LOWEST, $lowest - $amount)),
        )];
    }

    /** @return list<Channel> */
    private static function fedBeforeFaders(Situation $situation): array
    {
        $routes = SessionGraph::routes($situation->session);

        return array_values(array_filter($situation->session->channels, static fn (Channel $channel): bool => $channel->kind === ChannelKind::Return
            && $routes->into($channel->id) !== []
            && array_filter($routes->into($channel->id), static fn (Route $route): bool => $route->tap === TapPoint::PostFader) === []));
    }
}
