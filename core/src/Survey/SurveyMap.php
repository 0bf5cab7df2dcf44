<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Document\ContentHashes;
use Hafen\Engine\ProcessingCost;
use Hafen\Engine\Tap;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\Route;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;

/**
 * The parts of a survey, each after those it needs. A part's key is made from everything that can be heard in it and from the
 * keys of the parts that feed it, so that what is known of a key is true wherever the key comes up again: after undo, in another
 * revision, in what a remedy would make of the session.
 */
final readonly class SurveyMap
{
    /**
     * Changes when the meters or what parts keep do, so that no older figures are taken for new ones. 6: figures from before
     * signals were kept out of sample loops are measured again. 9: kept in another form. 10: the low spectrum is read
     * at another rate.
     */
    private const FIGURES = 10;

    /** To measure a channel, to read a recording, and to record and read again, in per cent of a core as measured (November 2026). */
    private const MEASURING = 1.25;

    private const READING = 0.4;

    private const RECORDING = 0.7;

    /** @param  array<string, SurveyPart>  $parts  by their id */
    private function __construct(public array $parts, public TimeRange $range)
    {
    }

    public static function of(Session $session, ProcessorCatalogue $processors, ?TimeRange $range = null): self
    {
        $range ??= TimeRange::all($session);
        $contents = ContentHashes::of($session, $processors);
        $routes = SessionGraph::routes($session);
        $measured = [$range->from, $range->to, $range->from === 0 ? 0.0 : $range->runIn];
        $parts = $upHashes = $outHashes = $sidechainsBehind = [];
        foreach ($routes->order() as $id) {
            $channel = $session->channel($id);
            assert($channel !== null);
            // Sidechains of post-fader inserts affect only the part after the fader.
            $sidechainsBehind[$id] = array_values(array_filter($routes->sidechainsInto($id), static fn (Route $route): bool => $route->isBehindFader($session)));
            $needs = [];
            foreach ([...$routes->into($id), ...$routes->sidechainsInto($id)] as $route) {
                $needs += self::captures($route, $upHashes, $sidechainsBehind);
            }
            $upHashes[$id] = self::hashOf([$measured, $contents->upToFader($id)]);
            $outHashes[$id] = self::hashOf([$measured, $contents->fromFader($id)]);
            $taken = array_filter([...$routes->outOf($id), ...$routes->sidechainsOutOf($id)], static fn (Route $route): bool => $route->tap === TapPoint::Source);
            $needsBehind = [];
            foreach ($sidechainsBehind[$id] as $route) {
                $needsBehind += self::captures($route, $upHashes, $sidechainsBehind);
            }
            // What feeds a bus is kept as well, so that a change of one feed need not sum all of them again.
            $isSummed = $routes->into($id) !== [] && $channel->inserts !== [];
            // Both parts may run together, so the first part includes the needs of the second.
            $up = new SurveyPart($id, Section::UpToFader, $upHashes[$id], array_values($needs),
                [Tap::PRE_FADER, ...($taken === [] && ! $isSummed ? [] : [Tap::SOURCE])], 3 + 3 * count($channel->inserts), ProcessingCost::of($channel));
            $out = new SurveyPart($id, Section::FromFader, $outHashes[$id], [[$id, $upHashes[$id], Tap::PRE_FADER], ...array_values($needsBehind)], [], 1 + 3 * count($channel->postInserts));
            $parts += [$up->id() => $up, $out->id() => $out];
        }

        return new self($parts, $range);
    }

    /** Returns the content hash of the whole: sessions that sound the same at every tap have the same hash. */
    public function hash(): string
    {
        return self::hashOf(array_map(static fn (SurveyPart $part): string => $part->hash, $this->parts));
    }

    public function part(string $channel, Section $section): SurveyPart
    {
        return $this->parts["{$channel}:{$section->value}"];
    }

    /**
     * The parts that are to be measured: those nobody has figures of, and those whose recording one of them needs and nobody
     * has any more.
     *
     * @param  list<string>  $captures  ids of parts whose recording before the fader is wanted as well
     * @return array<string, SurveyPart> by their id, each after those it needs
     */
    public function missing(SurveyStore $store, array $captures = []): array
    {
        $missing = $needed = [];
        foreach ($captures as $id) {
            $needed[$this->parts[$id]->hash][Tap::PRE_FADER] = Tap::PRE_FADER;
        }
        // Walks against the signal flow, because later parts decide which captures are needed.
        foreach (array_reverse($this->parts) as $id => $part) {
            $lacks = array_filter($needed[$part->hash] ?? [], static fn (string $stage): bool => ! $store->hasCapture($part->hash, $stage));
            if ($store->measures($part->hash) !== null && $lacks === []) {
                continue;
            }
            $missing[$id] = $part;
            foreach ($part->needs as [, $hash, $stage]) {
                $needed[$hash][$stage] = $stage;
            }
        }

        return array_reverse($missing);
    }

    /**
     * Parts put together to be measured in one pass each: every channel that others do not feed by itself, so that several can be measured
     * at the same time and their figures come one after the other; what is fed in one, which reads each recording once, but for channels that
     * are so much work that it pays to read what feeds them twice.
     *
     * @param  array<string, SurveyPart>  $missing  as {@see missing()} gives them
     * @return list<list<SurveyPart>> in the order of the parts
     */
    public static function passes(array $missing): array
    {
        $channels = SessionSurvey::byChannel($missing);
        $isAlone = [];
        // Against the signal flow: what feeds a channel with a pass of its own cannot be in the last one.
        foreach (array_reverse($channels, true) as $id => $parts) {
            $feeds = self::feeds($parts);
            $isAlone[$id] = ($isAlone[$id] ?? false) || self::isWorthAPass($parts, count($feeds));
            foreach ($isAlone[$id] ? $feeds : [] as $feed) {
                $isAlone[$feed] = true;
            }
        }
        $alone = $together = [];
        foreach ($channels as $id => $parts) {
            if ($isAlone[$id]) {
                $alone[] = $parts;
            } else {
                array_push($together, ...$parts);
            }
        }

        return $together === [] ? $alone : [...$alone, $together];
    }

    /**
     * Returns whether all captures exist that the parts of a pass need from others.
     *
     * @param  list<SurveyPart>  $pass
     */
    public static function isReady(array $pass, SurveyStore $store): bool
    {
        $own = array_column($pass, 'hash', 'hash');
        foreach ($pass as $part) {
            foreach ($part->needs as [, $hash, $stage]) {
                if (! isset($own[$hash]) && ! $store->hasCapture($hash, $stage)) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * @param  list<SurveyPart>  $parts  of one channel
     * @return list<string> ids of the channels whose recordings they need
     */
    private static function feeds(array $parts): array
    {
        $feeds = [];
        foreach ($parts as $part) {
            foreach ($part->needs as [$channel]) {
                if ($channel !== $part->channel) {
                    $feeds[$channel] = $channel;
                }
            }
        }

        return array_values($feeds);
    }

    /**
     * Whether a pass of its own takes less than half as much again as measuring the channel with others.
     *
     * @param  list<SurveyPart>  $parts  of one channel
     */
    private static function isWorthAPass(array $parts, int $feeds): bool
    {
        $work = self::MEASURING + array_sum(array_map(static fn (SurveyPart $part): float => $part->cost, $parts));

        return $feeds === 0 || $feeds * self::READING + self::RECORDING < 0.5 * $work;
    }

    /**
     * What a route needs recorded: the channel it comes from, and where it is taken behind the fader what inserts there listen to.
     *
     * @param  array<string, string>  $upHashes  by channel
     * @param  array<string, list<Route>>  $sidechainsBehind  by channel
     * @return array<string, array{string, string, string}> channel id, key, stage
     */
    private static function captures(Route $route, array $upHashes, array $sidechainsBehind): array
    {
        $needs = ["{$route->from}:pre" => [$route->from, $upHashes[$route->from], Tap::PRE_FADER]];
        if ($route->tap === TapPoint::Source) {
            $needs["{$route->from}:source"] = [$route->from, $upHashes[$route->from], Tap::SOURCE];
        }
        foreach ($route->tap === TapPoint::PostFader ? $sidechainsBehind[$route->from] : [] as $hash) {
            $needs += self::captures($hash, $upHashes, $sidechainsBehind);
        }

        return $needs;
    }

    /** @param  array<array-key, mixed>  $content */
    private static function hashOf(array $content): string
    {
        return hash('xxh128', serialize([self::FIGURES, $content]));
    }
}
