<?php

declare(strict_types=1);

namespace Hafen\Headroom\Rework;

use Hafen\Audio\Decibel;
use Hafen\Document\ContentHashes;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\ChannelStages;
use Hafen\Routing\Route;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Automation\ControlCurves;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/**
 * The factors by which edits make louder or softer what passes the taps of a session. A gain passes through everything that is linear as it
 * is; behind an insert that depends on level, and behind anything else the edits change, the sound is another, and there is no factor.
 */
final class TapScales
{
    /** @var array<string, ?float> of the sum that feeds a channel, before its trim, by channel id */
    private array $into = [];

    /** @var array<string, array<string, ?float>> by channel id and tap: source, pre-fader, post-fader */
    private array $scales = [];

    private function __construct(private readonly Session $before, private readonly Session $after, private readonly ProcessorCatalogue $processors)
    {
    }

    public static function between(Session $before, Session $after, ProcessorCatalogue $processors): self
    {
        $scales = new self($before, $after, $processors);
        $was = ContentHashes::of($before, $processors);
        $is = ContentHashes::of($after, $processors);
        // With the gains it had, what changes in other ways shows.
        $otherwise = ContentHashes::of(EqualGains::of($after, $before), $processors);
        foreach (SessionGraph::routes($after)->order() as $id) {
            $one = $before->channel($id);
            $two = $after->channel($id);
            assert($two !== null);
            $scales->into[$id] = $one === null ? null : $scales->sum($id);
            if ($one === null || $otherwise->upToFader($id) !== $was->upToFader($id)) {
                $scales->scales[$id] = ['source' => null, 'pre-fader' => null, 'post-fader' => null];

                continue;
            }
            $isFrozen = $one->frozen !== null || $two->frozen !== null || $two->off;
            $source = $isFrozen ? ($is->upToFader($id) === $was->upToFader($id) ? 1.0 : null) : self::times($scales->entering($id, $one, $two), self::trim($one, $two));
            $atFader = $isFrozen ? $source : ($scales->isLinear($two, $two->inserts, $source, false) ? $source : null);
            $behind = $otherwise->fromFader($id) === $was->fromFader($id) ? self::times($atFader, self::fader($one, $two)) : null;
            $scales->scales[$id] = [
                'source' => $source,
                'pre-fader' => $atFader,
                'post-fader' => $scales->isLinear($two, $two->postInserts, $behind, true) ? $behind : null,
            ];
        }

        return $scales;
    }

    /** Of all that feeds a channel, as it is summed before the trim; null where its parts are not scaled by the same. */
    public function into(string $channel): ?float
    {
        return $this->into[$channel] ?? null;
    }

    /** At the source, before or after the fader; null where the sound is another. */
    public function at(string $channel, TapPoint $tap): ?float
    {
        return $this->scales[$channel][$tap->value] ?? null;
    }

    /** At any stage of a channel; null where the sound is another. */
    public function atStage(string $channel, string $stage): ?float
    {
        $point = TapPoint::tryFrom($stage);
        if ($point !== null) {
            return $this->at($channel, $point);
        }
        $one = $this->after->channel($channel);
        $isBehindFader = $one !== null && in_array($stage, ChannelStages::of($one)->fromFader, true);

        // Where all of a row is linear, what passes anywhere in it is scaled as what leaves it.
        return $this->at($channel, $isBehindFader ? TapPoint::PostFader : TapPoint::PreFader);
    }

    /**
     * The routes into a channel whose sound is not what it was, scaled or otherwise; all where all of it comes later or sooner.
     *
     * @return array{list<Route>, list<Route>} as they were before; as they are now
     */
    public function changedRoutes(string $channel): array
    {
        $was = self::byId(self::sounding($this->before, $channel));
        $is = self::byId(self::sounding($this->after, $channel));
        foreach ($this->arrivesAlike($channel) ? $is : [] as $id => $route) {
            if (isset($was[$id]) && $this->isSame($was[$id], $route)) {
                unset($was[$id], $is[$id]);
            }
        }

        return [array_values($was), array_values($is)];
    }

    private function isSame(Route $was, Route $is): bool
    {
        return $this->at($is->from, $is->tap) === 1.0
            && $was == $is
            && self::sendMovers($this->before, $was) == self::sendMovers($this->after, $is)
            && SessionGraph::alignment($this->before, $this->processors)->delay($was) === SessionGraph::alignment($this->after, $this->processors)->delay($is);
    }

    /** Of what enters a channel before its trim. */
    private function entering(string $id, Channel $one, Channel $two): ?float
    {
        return $two->source->clips() === [] ? $this->into[$id] : EqualGains::ofClips($one->source->clips(), $two->source->clips());
    }

    private function sum(string $id): ?float
    {
        if (! $this->arrivesAlike($id)) {
            return null;
        }
        $was = $this->leaves($this->before, $id);
        $is = $this->leaves($this->after, $id);
        if (count($was) !== count($is)) {
            return null;
        }
        $factors = [];
        foreach ($is as $key => [$route, $gain]) {
            [$earlier, $earlierGain] = $was[$key] ?? [null, 0.0];
            if ($earlier === null || ! $this->comesAlike($earlier, $route)) {
                return null;
            }
            $factors[] = self::times($this->at($route->from, $route->tap), self::ratio($earlierGain, $gain));
        }

        return CommonFactor::of($factors);
    }

    private function arrivesAlike(string $channel): bool
    {
        return SessionGraph::alignment($this->before, $this->processors)->arrival[$channel] === SessionGraph::alignment($this->after, $this->processors)->arrival[$channel];
    }

    /** Whether two routes differ in nothing but how loud they are. */
    private function comesAlike(Route $was, Route $is): bool
    {
        return $was->kind === $is->kind
            && $was->tap === $is->tap
            && $was->send?->pan === $is->send?->pan
            && self::sendMovers($this->before, $was) == self::sendMovers($this->after, $is)
            && ($was->send === null || $this->before->channel($was->from)?->width === $this->after->channel($is->from)?->width);
    }

    /**
     * What feeds a channel, with the gain it has on the way; through groups that do nothing but sum.
     *
     * @return array<string, array{Route, float}> by what tells it wherever it leads
     */
    private function leaves(Session $session, string $id): array
    {
        $leaves = [];
        foreach (self::sounding($session, $id) as $route) {
            $from = $session->channel($route->from);
            assert($from !== null);
            if ($route->tap === TapPoint::PostFader && $route->send === null && $this->onlySums($session, $from)) {
                $gain = Decibel::toGain($from->trim->gain) * ($from->trim->invert ? -1.0 : 1.0) * Decibel::toGain($from->fader);
                foreach ($this->leaves($session, $from->id) as $key => [$leaf, $within]) {
                    $leaves[$key] = [$leaf, $within * $gain];
                }

                continue;
            }
            $isMoved = self::sendMovers($session, $route) !== [];
            $leaves[$route->send === null ? "{$route->kind->value}:{$route->from}:{$route->tap->value}" : "send:{$route->send->id}"]
                = [$route, $route->send === null ? 1.0 : Decibel::toGain($isMoved ? $route->performer : $route->gain())];
        }

        return $leaves;
    }

    /** Whether a group only sums what feeds it, at some gain. */
    private function onlySums(Session $session, Channel $channel): bool
    {
        $routes = SessionGraph::routes($session);

        return $channel->source->clips() === [] && $channel->source->tapped() === null && $routes->into($channel->id) !== []
            && $channel->allInserts() === [] && $channel->automation === [] && $channel->frozen === null && ! $channel->off && $channel->aligned
            && $channel->width->value === 'stereo' && $channel->pan === 0.0 && $channel->trim->gain !== null && $channel->fader !== null
            && array_filter($routes->into($channel->id), static fn (Route $route): bool => ! ($session->channel($route->from)->aligned ?? true)) === [];
    }

    /**
     * Whether a row passes on the factor of what enters it.
     *
     * @param  list<\Hafen\Session\Insert\Insert>  $row
     */
    private function isLinear(Channel $channel, array $row, ?float $entering, bool $behindFader): bool
    {
        if ($entering === null) {
            return false;
        }
        $isListenedChanged = false;
        foreach (SessionGraph::routes($this->after)->sidechainsInto($channel->id) as $route) {
            $isListenedChanged = $isListenedChanged || ($route->isBehindFader($this->after) === $behindFader && $this->at($route->from, $route->tap) !== 1.0);
        }
        if ($entering === 1.0 && ! $isListenedChanged) {
            return true;
        }
        foreach ($channel->insertsOn ? Inserts::all($row) : [] as $insert) {
            $isBypassed = ! $insert->isOn() && $channel->automation === [];
            if (! $isBypassed && $insert instanceof ProcessorInsert && ($this->processors->spec($insert->processor)->levelDependent || ($isListenedChanged && $insert->sidechain !== null))) {
                return false;
            }
        }

        return $entering > 0.0;
    }

    /** @return list<Route> that bring more than silence */
    private static function sounding(Session $session, string $id): array
    {
        return array_values(array_filter(SessionGraph::routes($session)->into($id), static function (Route $route) use ($session): bool {
            $from = $session->channel($route->from);
            $isMute = $route->tap === TapPoint::PostFader && (! SessionGraph::audibility($session)->has($route->from) || ($from?->fader === null && $from?->lane('fader') === null));

            return ! $isMute && $from?->off !== true && ! ContentHashes::isSilent($route, $session);
        }));
    }

    /** @return list<object> */
    private static function sendMovers(Session $session, Route $route): array
    {
        $from = $session->channel($route->from);

        return $route->send === null || $from === null ? [] : ControlCurves::movers($from, "send:{$route->send->id}");
    }

    private static function trim(Channel $one, Channel $two): ?float
    {
        $ratio = self::ratio(Decibel::toGain($one->trim->gain), Decibel::toGain($two->trim->gain));

        return $ratio !== null && $one->trim->invert !== $two->trim->invert ? -$ratio : $ratio;
    }

    private static function fader(Channel $one, Channel $two): ?float
    {
        return $two->lane('fader') !== null ? 1.0 : self::ratio(Decibel::toGain($one->fader), Decibel::toGain($two->fader));
    }

    private static function ratio(float $one, float $two): ?float
    {
        return match (true) {
            $one === $two => 1.0,
            $one === 0.0 || $two === 0.0 => null,
            default => $two / $one,
        };
    }

    private static function times(?float $one, ?float $two): ?float
    {
        return $one === null || $two === null ? null : $one * $two;
    }

    /**
     * @param  list<Route>  $routes
     * @return array<string, Route>
     */
    private static function byId(array $routes): array
    {
        $byId = [];
        foreach ($routes as $route) {
            $byId[$route->id()] = $route;
        }

        return $byId;
    }
}
