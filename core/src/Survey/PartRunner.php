<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Audio\SampleLoops;
use Hafen\Document\ContentHashes;
use Hafen\Engine\AudioLibrary;
use Hafen\Engine\Compiler;
use Hafen\Engine\Excerpt;
use Hafen\Engine\Plan;
use Hafen\Engine\Tap;
use Hafen\Engine\WorkClock;
use Hafen\Metering\FlatTops;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Throwable;

/**
 * Measures parts of channels with the engine, several channels in one pass: what feeds them and is not measured with them is replayed, and what
 * others will need is captured.
 */
final readonly class PartRunner
{
    public const BLOCK = 512;

    public function __construct(private Compiler $compiler, private ProcessorCatalogue $processors, private AudioLibrary $library)
    {
    }

    /**
     * Measures parts, and stores the measurements and captured audio.
     *
     * @param  list<SurveyPart>  $parts  each after those it needs
     * @param  list<string>  $captures  ids of channels whose recording before the fader is wanted even where the store keeps none for later
     * @param  ?callable(int, int, list<ChannelRun>): bool  $progress  gets frames done and in all, and what measures; false stops
     * @return bool false when stopped
     *
     * @throws SurveyStoreFull
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function run(Session $session, SurveyMap $map, array $parts, SurveyStore $store, ?callable $progress = null, array $captures = []): bool
    {
        // What a freeze covers is measured as well, where it would sound the same unfrozen.
        $thawed = ContentHashes::of($session, $this->processors)->thawed($session);

        return SampleLoops::run(fn (): bool => $this->measure($thawed, $map, $parts, $store, $progress, $captures));
    }

    /**
     * @param  list<SurveyPart>  $parts
     * @param  ?callable(int, int, list<ChannelRun>): bool  $progress
     * @param  list<string>  $captures
     */
    private function measure(Session $session, SurveyMap $map, array $parts, SurveyStore $store, ?callable $progress, array $captures): bool
    {
        $start = $map->range->start($session->sampleRate, self::BLOCK);
        $known = array_filter($parts, static fn (SurveyPart $part): bool => $part->section === Section::UpToFader && $store->measures($part->hash) !== null);
        $known = array_column($known, 'hash', 'channel');
        $clipped = $this->clippedOf($session, array_filter($parts, static fn (SurveyPart $part): bool => ! isset($known[$part->channel])), $map->range, $progress === null ? null : static fn (): bool => $progress(0, 1, []));
        if ($clipped === null) {
            return false;
        }
        $ids = array_map(strval(...), array_keys(SessionSurvey::byChannel($parts)));
        $plan = $this->compiler->compile($session, null, new Excerpt($ids[0], self::replays($parts, $store, $start), $ids));
        $clock = WorkClock::start();
        $runs = [];
        try {
            foreach (SessionSurvey::byChannel($parts) as $id => $ofChannel) {
                $runs[$id] = $this->channelRun($session, $map, $plan, $ofChannel, $store, $captures, isset($known[$id]));
            }
            $end = max(array_map(static fn (ChannelRun $run): int => $run->end, $runs));
            if (! self::pass($plan, $runs, $start, $end, $progress)) {
                array_walk($runs, static fn (ChannelRun $run) => $run->discard());

                return false;
            }
            array_walk($runs, static fn (ChannelRun $run) => $run->close());
        } catch (Throwable $failure) {
            array_walk($runs, static fn (ChannelRun $run) => $run->discard());
            throw $failure;
        }
        $audio = ($end - $start) / $clock->shareOfCore() * 1e9 / $session->sampleRate;
        foreach ($runs as $id => $run) {
            foreach ($run->measures($audio, $clipped[$id] ?? []) as $hash => $measures) {
                $store->keep((string) $hash, $measures);
            }
        }

        return true;
    }

    /**
     * @param  list<SurveyPart>  $parts  of one channel
     * @param  list<string>  $captures  ids of channels
     * @param  bool  $isUpKnown  see {@see ChannelRun}
     */
    private function channelRun(Session $session, SurveyMap $map, Plan $plan, array $parts, SurveyStore $store, array $captures, bool $isUpKnown): ChannelRun
    {
        $up = self::of($parts, Section::UpToFader);
        $channel = $session->channel($parts[0]->channel) ?? throw new \LogicException("No channel {$parts[0]->channel}.");
        $opened = [];
        if ($up !== null && ($store->keepsCaptures() || in_array($channel->id, $captures, true))) {
            foreach ($store->keepsCaptures() ? $up->records : [Tap::PRE_FADER] as $stage) {
                if (! $store->hasCapture($up->hash, $stage)) {
                    $opened[$stage] = $store->capture($up->hash, $stage);
                }
            }
        }

        return new ChannelRun(
            $plan->strips[$channel->id], $channel, $session, $map->range, $up, self::of($parts, Section::FromFader), $plan->arrival($channel->id),
            SessionGraph::alignment($session, $this->processors)->row[$channel->id], $opened,
            $isUpKnown,
        );
    }

    /**
     * Runs channels and what is replayed to them from start to end.
     *
     * @param  array<array-key, ChannelRun>  $runs  by channel id
     * @param  ?callable(int, int, list<ChannelRun>): bool  $progress
     * @return bool false when stopped
     */
    private static function pass(Plan $plan, array $runs, int $start, int $end, ?callable $progress): bool
    {
        $measuring = array_values($runs);
        $block = $plan->blockFrames(self::BLOCK);
        for ($sourcePosition = $start; $sourcePosition < $end; $sourcePosition += $block) {
            SampleLoops::pause();
            $plan->begin($block);
            foreach ($plan->strips as $id => $strip) {
                $run = $runs[$id] ?? null;
                $sound = $strip->process($sourcePosition, $block, $run->isMeasured ?? false, null);
                $run?->look($sourcePosition, $block, $sound);
            }
            $plan->end($block);
            if ($progress !== null && ! $progress(min($end, $sourcePosition + $block) - $start, $end - $start, $measuring)) {
                return false;
            }
        }

        return true;
    }

    /**
     * Finds clips that were clipped when they were recorded, of channels that are measured up to their fader.
     *
     * @param  array<SurveyPart>  $parts
     * @param  ?callable(): bool  $goOn  false stops
     * @return ?array<string, list<ClippedClip>> by channel id; null when stopped
     */
    private function clippedOf(Session $session, array $parts, TimeRange $range, ?callable $goOn): ?array
    {
        $clipped = [];
        foreach ($parts as $part) {
            $channel = $session->channel($part->channel);
            if ($part->section !== Section::UpToFader || $channel === null) {
                continue;
            }
            $found = $this->clipped($channel, $session, $range, $goOn);
            if ($found === null) {
                return null;
            }
            $clipped[$part->channel] = $found;
        }

        return $clipped;
    }

    /**
     * Finds clips within the range that were clipped when they were recorded.
     *
     * @param  ?callable(): bool  $goOn  false stops
     * @return ?list<ClippedClip> null when stopped
     */
    private function clipped(Channel $channel, Session $session, TimeRange $range, ?callable $goOn): ?array
    {
        $clipped = [];
        foreach ($channel->source->clips() as $clip) {
            $from = max($clip->start, $range->from);
            $to = min($clip->end(), $range->to);
            if ($to <= $from) {
                continue;
            }
            $file = $this->library->open($clip->file);
            $ratio = $file->sampleRate() / $session->sampleRate;
            $places = FlatTops::in($file, (int) round(($clip->offset + $from - $clip->start) * $ratio), (int) ceil(($to - $from) * $ratio), $goOn);
            if ($places === null) {
                return null;
            }
            if ($places !== []) {
                $clipped[] = new ClippedClip($clip->id, count($places), $clip->start - $clip->offset + (int) round($places[0] / $ratio));
            }
        }

        return $clipped;
    }

    /** @param  list<SurveyPart>  $parts */
    private static function of(array $parts, Section $section): ?SurveyPart
    {
        foreach ($parts as $part) {
            if ($part->section === $section) {
                return $part;
            }
        }

        return null;
    }

    /**
     * What parts need that is not measured with them.
     *
     * @param  list<SurveyPart>  $parts
     * @return array<string, array<string, \Hafen\Engine\Replay>> by channel id and stage
     */
    private static function replays(array $parts, SurveyStore $store, int $start): array
    {
        $measured = array_fill_keys(array_map(static fn (SurveyPart $part): string => $part->hash, $parts), true);
        $replays = [];
        foreach ($parts as $part) {
            foreach ($part->needs as [$channel, $hash, $stage]) {
                if (! isset($measured[$hash])) {
                    $replays[$channel][$stage] ??= $store->replay($hash, $stage, $start);
                }
            }
        }

        return $replays;
    }
}
