<?php

declare(strict_types=1);

namespace Hafen\Headroom\Rework;

use Closure;
use Hafen\Audio\Decibel;
use Hafen\Engine\Tap;
use Hafen\Routing\Route;
use Hafen\Routing\Routes;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;

/**
 * What has to be worked again to know what edits make of a session, and what is known from its recordings: a channel that is only scaled is
 * replayed as much louder or softer; a bus takes the recorded sum of what feeds it, scaled, or with the feeds that changed taken out and put in
 * again. What is left is worked: what the edits change otherwise, and what follows an insert that depends on level.
 */
final class Rework
{
    /** @var list<string> ids of channels to be worked from their source on */
    public array $worked = [];

    /** @var array<string, float> of channels that are replayed up to their fader, by channel id */
    public array $replayed = [];

    /** @var array<string, SumAgain> of worked channels whose feeds are known, by channel id */
    public array $sums = [];

    private readonly Routes $routes;

    /** @var array<string, true> ids of channels something that is worked takes from */
    private array $needed = [];

    /**
     * @param  Closure(string, string): bool  $isRecorded  whether there is a recording of a channel at a stage, as the session was
     * @param  Closure(string): bool  $isTame  whether a channel is known to be no louder than what can be taken out of a sum without a rest
     */
    private function __construct(
        private readonly Session $before,
        private readonly Session $after,
        public readonly TapScales $scales,
        private readonly Closure $isRecorded,
        private readonly Closure $isTame,
    ) {
        $this->routes = SessionGraph::routes($after);
    }

    /**
     * @param  bool  $measuresAll  whether channels count that the main does not need, but whose sound is another than it was
     * @param  Closure(string, string): bool  $isRecorded  whether there is a recording of a channel at a stage, as the session was
     * @param  Closure(string): bool  $isTame  whether a channel is no louder than what can be taken out of a sum without a rest
     */
    public static function of(Session $before, Session $after, TapScales $scales, bool $measuresAll, Closure $isRecorded, Closure $isTame): self
    {
        $rework = new self($before, $after, $scales, $isRecorded, $isTame);
        $rework->needed[$after->main()->id] = true;
        foreach (array_reverse($rework->routes->order()) as $id) {
            $isOther = $before->channel($id) !== null && ($scales->at($id, TapPoint::PreFader) === null || $scales->at($id, TapPoint::PostFader) === null);
            if (isset($rework->needed[$id]) || ($measuresAll && $isOther)) {
                $rework->take($id);
            }
        }
        $rework->worked = array_reverse($rework->worked);

        return $rework;
    }

    /** All of a session. */
    public static function everything(Session $session, TapScales $scales): self
    {
        $rework = new self($session, $session, $scales, static fn (): bool => false, static fn (): bool => false);
        $rework->worked = $rework->routes->order();

        return $rework;
    }

    /** @return list<string> ids of channels whose recordings are replayed, as they are after the edits or as they were */
    public function recordings(): array
    {
        $channels = $this->replayed + $this->sums;
        foreach ($this->sums as $sum) {
            $channels += array_fill_keys($sum->removedFrom(), true);
        }

        return array_map(strval(...), array_keys($channels));
    }

    private function take(string $id): void
    {
        $atFader = $this->scales->at($id, TapPoint::PreFader);
        $atSource = $this->scales->at($id, TapPoint::Source);
        $needsSource = array_filter([...$this->routes->outOf($id), ...$this->routes->sidechainsOutOf($id)], static fn (Route $route): bool => $route->tap === TapPoint::Source) !== [];
        $behind = array_filter($this->routes->sidechainsInto($id), fn (Route $route): bool => $route->isBehindFader($this->after));
        if ($atFader !== null && $atSource !== null && ($this->isRecorded)($id, Tap::PRE_FADER) && (! $needsSource || ($this->isRecorded)($id, Tap::SOURCE))) {
            $this->replayed[$id] = $atFader;
            $this->need($behind);

            return;
        }
        $this->worked[] = $id;
        $this->need($this->routes->sidechainsInto($id));
        $sum = $this->routes->into($id) === [] ? null : $this->sumAgain($id);
        if ($sum !== null) {
            $this->sums[$id] = $sum;
        }
        $this->need($sum === null ? $this->routes->into($id) : $sum->added);
    }

    /** How the sum that feeds a channel is known from its recording; null where it is not, or where that would be no less work. */
    private function sumAgain(string $id): ?SumAgain
    {
        $was = $this->before->channel($id);
        $stage = $was?->inserts === [] ? Tap::PRE_FADER : Tap::SOURCE;
        // Silence says nothing about what was summed, and a frozen channel plays its file.
        if ($was === null || $was->trim->gain === null || $was->frozen !== null || $was->off || ! ($this->isRecorded)($id, $stage)) {
            return null;
        }
        $beforeTrim = 1.0 / (Decibel::toGain($was->trim->gain) * ($was->trim->invert ? -1.0 : 1.0));
        $scale = $this->scales->into($id);
        if ($scale !== null) {
            return new SumAgain($stage, $scale * $beforeTrim);
        }
        [$removed, $added] = $this->scales->changedRoutes($id);
        if (! ($this->isTame)($id)) {
            return null;
        }
        foreach ($removed as $route) {
            $isHeardBehind = array_filter(SessionGraph::routes($this->before)->sidechainsInto($route->from), fn (Route $one): bool => $one->isBehindFader($this->before)) !== [];
            if ($isHeardBehind || ! ($this->isTame)($route->from) || ! ($this->isRecorded)($route->from, $route->tap === TapPoint::Source ? Tap::SOURCE : Tap::PRE_FADER)) {
                return null;
            }
        }

        return count($removed) + count($added) < count($this->routes->into($id)) ? new SumAgain($stage, $beforeTrim, $removed, $added) : null;
    }

    /** @param  array<Route>  $routes */
    private function need(array $routes): void
    {
        foreach ($routes as $route) {
            $this->needed[$route->from] = true;
        }
    }
}
