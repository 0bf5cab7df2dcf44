<?php

declare(strict_types=1);

namespace Hafen\Headroom\Rework;

use Hafen\Audio\Decibel;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\Samples;
use Hafen\Document\ContentHashes;
use Hafen\Engine\Compiler;
use Hafen\Engine\Excerpt;
use Hafen\Engine\KnownInput;
use Hafen\Engine\Plan;
use Hafen\Engine\RecordedSum;
use Hafen\Engine\RemovedFeeds;
use Hafen\Engine\Replay;
use Hafen\Engine\ScaledReplay;
use Hafen\Engine\Tap;
use Hafen\Headroom\Levels;
use Hafen\Metering\LoudnessMeter;
use Hafen\Metering\TruePeakMeter;
use Hafen\Metering\Window;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;
use Hafen\Survey\AudioCapture;
use Hafen\Survey\PartRunner;
use Hafen\Survey\Section;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyStore;
use Hafen\Survey\SurveyStoreFull;
use Hafen\Survey\TimeRange;
use Throwable;

/**
 * Measures what edits make of a session over a range, from recordings of how it was: only what {@see Rework} finds is worked.
 *
 * Where the recordings are not there, more is worked, and the figures are the same.
 */
final readonly class Remeasurement
{
    private const BLOCK = PartRunner::BLOCK;

    /** Largest sample of which what rounding leaves is below -240 dBFS. */
    private const TAME = 1000.0;

    private const REST = 1e-12;

    /** @param  SurveyStore  $store  of the recordings */
    public function __construct(private Compiler $compiler, private ProcessorCatalogue $processors, private SurveyStore $store)
    {
    }

    /**
     * Works all of a session, measures it and keeps its recordings, so that of what edits make of it only what changes has to be worked.
     *
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     * @return ?Remeasured null when stopped
     *
     * @throws SurveyStoreFull
     */
    public function record(Session $session, TimeRange $range, ?callable $progress = null): ?Remeasured
    {
        $session = $this->thawed($session);
        $all = Rework::everything($session, TapScales::between($session, $session, $this->processors));

        return SampleLoops::run(fn (): ?Remeasured => $this->measure($session, $session, $range, $all, true, $all->worked, $progress));
    }

    /** Whether all that feeds the main is recorded. */
    public function isRecorded(Session $session, TimeRange $range): bool
    {
        $map = SurveyMap::of($session, $this->processors, $range);
        foreach ([$session->main()->id, ...SessionGraph::routes($session)->needed($session->main()->id)] as $id) {
            $part = $map->part($id, Section::UpToFader);
            foreach ($part->records as $stage) {
                if (! $this->store->hasCapture($part->hash, $stage)) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * @param  bool  $measuresAll  reads the taps of all channels whose sound is another
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     * @param  list<string>  $records  ids of channels whose recordings are kept where they are worked
     * @return ?Remeasured null when stopped
     *
     * @throws SurveyStoreFull
     */
    public function of(Session $before, Session $after, TimeRange $range, bool $measuresAll, ?callable $progress = null, array $records = []): ?Remeasured
    {
        $rework = $this->rework($before, $after, $range, $measuresAll);

        return SampleLoops::run(fn (): ?Remeasured => $this->measure($this->thawed($before), $this->thawed($after), $range, $rework, $measuresAll, $records, $progress));
    }

    /**
     * What it takes to measure what edits make of a session.
     *
     * @param  bool  $fromAll  as if all of it were recorded
     */
    public function rework(Session $before, Session $after, TimeRange $range, bool $measuresAll, bool $fromAll = false): Rework
    {
        $before = $this->thawed($before);
        $after = $this->thawed($after);
        $map = SurveyMap::of($before, $this->processors, $range);
        $isRecorded = function (string $channel, string $stage) use ($map, $before, $fromAll): bool {
            $part = $before->channel($channel) === null ? null : $map->part($channel, Section::UpToFader);

            return $part !== null && in_array($stage, $part->records, true) && ($fromAll || $this->store->hasCapture($part->hash, $stage));
        };

        $isTame = fn (string $channel): bool => ! $this->isWild($map->part($channel, Section::UpToFader)->hash);

        return Rework::of($before, $after, TapScales::between($before, $after, $this->processors), $measuresAll, $isRecorded, $isTame);
    }

    /** Whether a channel is known to have carried, up to its fader, so much that it leaves a rest where it is taken out of a sum. */
    private function isWild(string $hash): bool
    {
        foreach ($this->store->measures($hash)->taps ?? [] as $reading) {
            if ($reading->peak > self::TAME) {
                return true;
            }
        }

        return false;
    }

    /** What a freeze covers is worked as well, where it would sound the same unfrozen. */
    private function thawed(Session $session): Session
    {
        return ContentHashes::of($session, $this->processors)->thawed($session);
    }

    /**
     * @param  list<string>  $records  ids of channels whose recordings are kept where they are worked
     * @param  ?callable(int, int): bool  $progress
     */
    private function measure(Session $before, Session $after, TimeRange $range, Rework $rework, bool $measuresAll, array $records, ?callable $progress): ?Remeasured
    {
        $start = $range->start($after->sampleRate, self::BLOCK);
        $map = SurveyMap::of($before, $this->processors, $range);
        $mainId = $after->main()->id;
        $earlier = $this->earlier($before, $rework, $map, $start);
        $inputs = [];
        foreach ($rework->sums as $id => $sum) {
            $known = [new RecordedSum($this->store->replay($map->part((string) $id, Section::UpToFader)->hash, $sum->stage, $start), $sum->scale)];
            if ($sum->removed !== [] && $earlier !== null) {
                $known[] = new RemovedFeeds($earlier->strips[$id]->input);
            }
            $inputs[$id] = new KnownInput($known, SumAgain::ids($sum->added));
        }
        $plan = $this->compiler->compile($after, null, new Excerpt($mainId, $this->replays($rework, $map, $start), $rework->worked, [], $inputs));
        $meters = $measuresAll ? $this->meters($plan, $rework, $range) : [];
        $plan->strips[$mainId]->keep(Tap::POST_FADER);
        $captures = $this->captures($plan, SurveyMap::of($after, $this->processors, $range), array_values(array_intersect($rework->worked, $records)));
        $window = new Window($range->from, $range->to, SessionGraph::alignment($after, $this->processors)->session);
        $latency = max([$window->latency, ...array_values($meters)]);
        try {
            $main = self::run($plan, self::feeding($earlier, $rework), $meters, $captures, $window, $start, $range->to + $latency, $progress);
        } catch (Throwable $failure) {
            array_walk($captures, static fn (array $capture) => $capture[2]->discard());
            throw $failure;
        }
        array_walk($captures, static fn (array $capture) => $main === null ? $capture[2]->discard() : $capture[2]->close());
        if ($main === null) {
            return null;
        }
        $taps = [];
        foreach (array_keys($meters) as $id) {
            foreach ($plan->strips[$id]->meters() as $stage => $meter) {
                $taps["{$id}:{$stage}"] = $meter->read();
            }
        }
        // Of what is replayed only what is behind the fader was measured.
        foreach (array_keys($rework->replayed) as $id) {
            unset($taps["{$id}:".Tap::SOURCE], $taps["{$id}:".Tap::PRE_FADER]);
        }

        return new Remeasured($main[0], $main[1], $taps, $rework->scales);
    }

    /**
     * @param  list<\Hafen\Engine\ChannelStrip>  $earlier  of the session as it was, whose feeds are taken out of recorded sums
     * @param  array<string, int>  $meters  by id of the channels whose taps are measured
     * @param  list<array{string, string, AudioCapture}>  $captures
     * @param  int  $end  source position behind the last block that counts anywhere
     * @param  ?callable(int, int): bool  $progress
     * @return ?array{Levels, ?int} of the main, and the position of its loudest block; null when stopped
     */
    private static function run(Plan $plan, array $earlier, array $meters, array $captures, Window $window, int $start, int $end, ?callable $progress): ?array
    {
        $main = $plan->main();
        $truePeak = new TruePeakMeter;
        $loudness = new LoudnessMeter($plan->session->sampleRate);
        $peak = 0.0;
        $loudestAt = null;
        $highest = -INF;
        $block = $plan->blockFrames(self::BLOCK);
        for ($position = $start; $position < $end; $position += $block) {
            SampleLoops::pause();
            foreach ($earlier as $strip) {
                $strip->process($position, $block, false, null);
            }
            $plan->begin($block);
            foreach ($plan->strips as $id => $strip) {
                $strip->process($position, $block, isset($meters[$id]), null);
            }
            $plan->end($block);
            foreach ($captures as [$channel, $stage, $capture]) {
                $capture->write($plan->strips[$channel]->passing($stage, $block));
            }
            $cut = $window->cut($main->passing(Tap::POST_FADER, $block), $position);
            if ($cut !== null) {
                $truePeak->measure($cut[0]);
                $loudness->measure($cut[0]);
                $peak = max($peak, Samples::peak($cut[0]->left), Samples::peak($cut[0]->right()));
                $level = $truePeak->level() ?? -INF;
                if ($level > $highest) {
                    [$highest, $loudestAt] = [$level, $cut[1]];
                }
            }
            if ($progress !== null && ! $progress(min($end, $position + $block) - $start, $end - $start)) {
                return null;
            }
        }

        // Where feeds are taken out of a sum, rounding leaves this much of what would be silence.
        if ($earlier !== [] && $peak < self::REST) {
            return [new Levels(null, null, null), null];
        }

        return [new Levels(Decibel::fromGain($peak), $truePeak->level(), $loudness->read()->integrated), $loudestAt];
    }

    /** The session as it was, with the channels whose feeds are taken out of recorded sums, and what they fed; null where there are none. */
    private function earlier(Session $before, Rework $rework, SurveyMap $map, int $start): ?Plan
    {
        $replays = $inputs = [];
        foreach ($rework->sums as $id => $sum) {
            foreach ($sum->removedFrom() as $from) {
                $replays[$from] = $this->recorded($map, $from, $start);
            }
            if ($sum->removed !== []) {
                $inputs[$id] = new KnownInput([], SumAgain::ids($sum->removed));
            }
        }
        $buses = array_map(strval(...), array_keys($inputs));

        return $buses === [] ? null : $this->compiler->compile($before, null, new Excerpt($buses[0], $replays, $buses, [], $inputs));
    }

    /** @return list<\Hafen\Engine\ChannelStrip> */
    private static function feeding(?Plan $earlier, Rework $rework): array
    {
        $ids = array_merge(...array_values(array_map(static fn (SumAgain $sum): array => $sum->removedFrom(), $rework->sums)), ...[[]]);

        return $earlier === null ? [] : array_values(array_intersect_key($earlier->strips, array_flip($ids)));
    }

    /** @return array<string, array<string, Replay>> by channel id and stage */
    private function replays(Rework $rework, SurveyMap $map, int $start): array
    {
        $replays = [];
        foreach ($rework->replayed as $id => $scale) {
            $replays[$id] = [];
            foreach ($this->recorded($map, (string) $id, $start) as $stage => $recording) {
                $replays[$id][$stage] = ScaledReplay::of($recording, $stage === Tap::PRE_FADER ? $scale : $rework->scales->at((string) $id, TapPoint::Source) ?? 1.0);
            }
        }

        return $replays;
    }

    /** @return array<string, Replay> all that is recorded of a channel, by stage */
    private function recorded(SurveyMap $map, string $channel, int $start): array
    {
        $part = $map->part($channel, Section::UpToFader);
        $recorded = [];
        foreach ($part->records as $stage) {
            if ($this->store->hasCapture($part->hash, $stage)) {
                $recorded[$stage] = $this->store->replay($part->hash, $stage, $start);
            }
        }

        return $recorded;
    }

    /** @return array<string, int> samples by which sound leaves the channels late whose taps are measured, which are set to the range, by channel id */
    private function meters(Plan $plan, Rework $rework, TimeRange $range): array
    {
        $rows = SessionGraph::alignment($plan->session, $this->processors)->row;
        $measured = [];
        foreach ($plan->session->channels as $channel) {
            $isReplayed = isset($rework->replayed[$channel->id]);
            if (! isset($plan->strips[$channel->id]) || ($isReplayed && $rework->scales->at($channel->id, TapPoint::PostFader) !== null)) {
                continue;
            }
            $late = $plan->arrival($channel->id) + ($isReplayed ? $rows[$channel->id] : 0);
            $plan->strips[$channel->id]->measureOnly(new Window($range->from, $range->to, $late));
            $measured[$channel->id] = $late + $plan->strips[$channel->id]->latency();
        }

        return $measured;
    }

    /**
     * @param  list<string>  $channels  ids
     * @return list<array{string, string, AudioCapture}> channel id, stage
     */
    private function captures(Plan $plan, SurveyMap $map, array $channels): array
    {
        $captures = [];
        try {
            foreach ($channels as $id) {
                $part = $map->part($id, Section::UpToFader);
                foreach ($part->records as $stage) {
                    if (! $this->store->hasCapture($part->hash, $stage)) {
                        $plan->strips[$id]->keep($stage);
                        $captures[] = [$id, $stage, $this->store->capture($part->hash, $stage)];
                    }
                }
            }
        } catch (SurveyStoreFull $full) {
            array_walk($captures, static fn (array $capture) => $capture[2]->discard());
            throw $full;
        }

        return $captures;
    }
}
