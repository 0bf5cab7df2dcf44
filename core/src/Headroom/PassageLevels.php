<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Audio\Decibel;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\Samples;
use Hafen\Engine\Compiler;
use Hafen\Engine\Excerpt;
use Hafen\Engine\Plan;
use Hafen\Engine\Replay;
use Hafen\Engine\Tap;
use Hafen\Metering\LoudnessMeter;
use Hafen\Metering\TruePeakMeter;
use Hafen\Metering\Window;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Session;
use Hafen\Survey\AudioCapture;
use Hafen\Survey\PartRunner;
use Hafen\Survey\Section;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyPart;
use Hafen\Survey\SurveyStore;
use Hafen\Survey\SurveyStoreFull;
use Hafen\Survey\TimeRange;
use Throwable;

/**
 * What comes out of the main over a short passage, of a session and of what remedies make of it. The session is recorded before every
 * fader once; of what remedies make only the channels they change are worked again, and what follows.
 */
final readonly class PassageLevels
{
    private const BLOCK = PartRunner::BLOCK;

    /** @param  SurveyStore  $store  of the recordings */
    public function __construct(private Compiler $compiler, private ProcessorCatalogue $processors, private SurveyStore $store)
    {
    }

    /**
     * @param  bool  $records  whether others are going to replay its channels
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     * @return ?Levels null when stopped
     *
     * @throws SurveyStoreFull
     */
    public function of(Session $session, TimeRange $range, bool $records, ?callable $progress = null): ?Levels
    {
        return SampleLoops::run(fn (): ?Levels => $this->measure($session, $range, $records, $progress));
    }

    /** @param  ?callable(int, int): bool  $progress */
    private function measure(Session $session, TimeRange $range, bool $records, ?callable $progress): ?Levels
    {
        $start = $range->start($session->sampleRate, self::BLOCK);
        $main = $session->main()->id;
        $map = SurveyMap::of($session, $this->processors, $range);
        [$worked, $replays] = $this->workedAndReplayed($session, $map, $start);
        $plan = $this->compiler->compile($session, null, new Excerpt($main, $replays, $worked));
        $window = new Window($range->from, $range->to, $plan->latencyAt(new Tap($main)));
        $plan->strips[$main]->keep(Tap::POST_FADER);
        $captures = $records ? $this->captures($plan, $map, $worked) : [];
        try {
            $levels = self::run($plan, $captures, $window, $start, $progress);
        } catch (Throwable $failure) {
            array_walk($captures, static fn (array $capture) => $capture[2]->discard());
            throw $failure;
        }
        array_walk($captures, static fn (array $capture) => $levels === null ? $capture[2]->discard() : $capture[2]->close());

        return $levels;
    }

    /**
     * @param  list<array{string, string, AudioCapture}>  $captures
     * @param  ?callable(int, int): bool  $progress
     */
    private static function run(Plan $plan, array $captures, Window $window, int $start, ?callable $progress): ?Levels
    {
        $main = $plan->main();
        $truePeak = new TruePeakMeter;
        $loudness = new LoudnessMeter($plan->session->sampleRate);
        $peak = 0.0;
        $end = $window->to + $window->latency;
        for ($position = $start; $position < $end; $position += self::BLOCK) {
            SampleLoops::pause();
            foreach ($plan->strips as $strip) {
                $strip->process($position, self::BLOCK, false, null);
            }
            foreach ($captures as [$channel, $stage, $capture]) {
                $capture->write($plan->strips[$channel]->passing($stage, self::BLOCK));
            }
            $cut = $window->cut($main->passing(Tap::POST_FADER, self::BLOCK), $position);
            if ($cut !== null) {
                $truePeak->measure($cut[0]);
                $loudness->measure($cut[0]);
                $peak = max($peak, Samples::peak($cut[0]->left), Samples::peak($cut[0]->right()));
            }
            if ($progress !== null && ! $progress(min($end, $position + self::BLOCK) - $start, $end - $start)) {
                return null;
            }
        }

        return new Levels(Decibel::fromGain($peak), $truePeak->level(), $loudness->read()->integrated);
    }

    /**
     * Goes against the sound from the main: what is recorded is replayed, and what feeds it is not needed.
     *
     * @return array{list<string>, array<string, array<string, Replay>>} ids of channels to be worked; replays by channel id and stage
     */
    private function workedAndReplayed(Session $session, SurveyMap $map, int $start): array
    {
        $routes = SessionGraph::routes($session);
        $needed = [$session->main()->id => true];
        $worked = $replays = [];
        foreach (array_reverse($routes->order()) as $id) {
            if (! isset($needed[$id])) {
                continue;
            }
            $part = $map->part($id, Section::UpToFader);
            $behind = array_filter($routes->sidechainsInto($id), static fn ($route): bool => $route->isBehindFader($session));
            if ($this->isRecorded($part)) {
                foreach ($part->records as $stage) {
                    $replays[$id][$stage] = $this->store->replay($part->hash, $stage, $start);
                }
            } else {
                $worked[] = $id;
                $behind = [...$routes->into($id), ...$routes->sidechainsInto($id)];
            }
            foreach ($behind as $route) {
                $needed[$route->from] = true;
            }
        }

        return [$worked, $replays];
    }

    private function isRecorded(SurveyPart $part): bool
    {
        foreach ($part->records as $stage) {
            if (! $this->store->hasCapture($part->hash, $stage)) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  list<string>  $worked  channel ids
     * @return list<array{string, string, AudioCapture}> channel id, stage
     */
    private function captures(Plan $plan, SurveyMap $map, array $worked): array
    {
        $captures = [];
        foreach ($worked as $id) {
            $part = $map->part($id, Section::UpToFader);
            foreach ($part->records as $stage) {
                $plan->strips[$id]->keep($stage);
                $captures[] = [$id, $stage, $this->store->capture($part->hash, $stage)];
            }
        }

        return $captures;
    }
}
