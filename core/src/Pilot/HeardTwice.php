<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Audio\Decibel;
use Hafen\Edit\Channels;
use Hafen\Edit\Json\EditRequest;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Source\PrintedFrom;

/** A print that is heard beside what it was printed from, has the level of that again, or goes through the main's effects a second time. */
final readonly class HeardTwice implements Check
{
    /** dB within which two faders stand alike. */
    private const ALIKE = 0.05;

    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            $printedFrom = array_values(array_filter(array_map(static fn ($clip): ?PrintedFrom => $clip->printedFrom, $channel->source->clips())))[0] ?? null;
            $sources = array_values(array_filter(array_map($facts->session->channel(...), $printedFrom?->channels() ?? [])));
            if ($printedFrom !== null && $sources !== [] && $sources[0]->id !== $channel->id && ! $channel->off) {
                array_push($advice, ...array_filter([
                    $this->besideSources($facts, $channel, $sources),
                    count($sources) === 1 ? $this->levelTwice($channel, $sources[0], $printedFrom) : null,
                    $this->mainTwice($facts, $channel, $printedFrom),
                ]));
            }
        }

        return $advice;
    }

    /** @param  list<Channel>  $sources */
    private function besideSources(SessionFacts $facts, Channel $channel, array $sources): ?Advice
    {
        $audibility = SessionGraph::audibility($facts->session);
        $heard = array_values(array_filter($sources, static fn (Channel $source): bool => ! $source->off && $audibility->has($source->id)));
        if ($heard === [] || ! $audibility->has($channel->id)) {
            return null;
        }
        $ids = array_map(static fn (Channel $source): string => $source->id, $heard);
        $names = Channels::named($facts->session, $ids);

        return new Advice('heard-twice', Severity::Advice, $channel->id, null,
            "{$names} and ".(count($sources) === 1 ? 'its' : 'the')." print {$channel->name} are ".(count($heard) === 1 ? 'both ' : '').'heard.',
            new Fix("Mute {$names}", EditRequest::setMute($ids, true)));
    }

    private function levelTwice(Channel $channel, Channel $source, PrintedFrom $from): ?Advice
    {
        if ($from->tap === 'source' || $from->tap === 'pre-fader' || $source->fader === null || $channel->fader === null
            || abs($source->fader) < self::ALIKE || abs($source->fader - $channel->fader) >= self::ALIKE) {
            return null;
        }

        return new Advice('level-printed-twice', Severity::Advice, $channel->id, null,
            sprintf('%s stands at %s, which is in its print already: %s in all.', $channel->name, Decibel::text($channel->fader, 'dB', true), Decibel::text(2.0 * $channel->fader, 'dB', true)),
            new Fix('Set its fader to 0.0', EditRequest::setFader([$channel->id], 0.0)));
    }

    private function mainTwice(SessionFacts $facts, Channel $channel, PrintedFrom $from): ?Advice
    {
        $main = $facts->session->main();
        $working = SessionFacts::working($main, [...$main->inserts, ...$main->postInserts]);
        if ($from->tap !== 'main' || $working === [] || ! in_array($main->id, $facts->routes->downstream($channel->id), true)) {
            return null;
        }

        return new Advice('main-twice', Severity::Severe, $channel->id, null,
            sprintf('%s was printed through the main and goes through it again: %s works on it twice.', $channel->name, $facts->spec($working[0])->name),
            new Fix('Send it nowhere', EditRequest::setOutput([$channel->id], 'none')));
    }
}
