<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Audio\SampleLoops;
use Hafen\Document\ContentHashes;
use Hafen\Engine\AudioLibrary;
use Hafen\Engine\ChannelStrip;
use Hafen\Engine\Compiler;
use Hafen\Engine\Excerpt;
use Hafen\Engine\Fault;
use Hafen\Engine\Plan;
use Hafen\Engine\Tap;
use Hafen\Engine\WorkClock;
use Hafen\Metering\FlatTops;
use Hafen\Metering\Window;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Routing\RowLatency;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;
use Throwable;

/** Measures parts of one channel with the engine: its inputs are replayed, and what other channels need is captured. */
final readonly class PartRunner
{
    public const BLOCK = 512;

    /** Seconds by which an unaligned channel can be early. */
    private const AHEAD = 1;

    public function __construct(private Compiler $compiler, private ProcessorCatalogue $processors, private AudioLibrary $library)
    {
    }

    /**
     * Measures one or both parts of a channel, and stores the measurements and captured audio.
     *
     * @param  list<SurveyPart>  $parts  of one channel
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     * @return bool false when stopped
     *
     * @throws SurveyStoreFull
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function run(Session $session, SurveyMap $map, array $parts, SurveyStore $store, ?callable $progress = null): bool
    {
        // What a freeze covers is measured as well, where it would sound the same unfrozen.
        $thawed = ContentHashes::of($session, $this->processors)->thawed($session);

        return SampleLoops::run(fn (): bool => $this->measure($thawed, $map, $parts, $store, $progress));
    }

    /**
     * @param  list<SurveyPart>  $parts
     * @param  ?callable(int, int): bool  $progress
     */
    private function measure(Session $session, SurveyMap $map, array $parts, SurveyStore $store, ?callable $progress): bool
    {
        $up = self::of($parts, Section::UpToFader);
        $from = self::of($parts, Section::FromFader);
        $first = $up ?? $from ?? throw new \LogicException('No part to measure.');
        $channel = $session->channel($first->channel) ?? throw new \LogicException("No channel {$first->channel}.");
        $start = $map->range->start($session->sampleRate, self::BLOCK);
        $plan = $this->compiler->compile($session, null, new Excerpt($channel->id, self::replays($first, $store, $start)));
        $strip = $plan->strips[$channel->id];
        $before = (new RowLatency($this->processors, new Setting($session->sampleRate, $session->tempo)))->of($channel->inserts);
        $arrival = $plan->arrival($channel->id);
        $window = new Window($map->range->from, $map->range->to, $arrival + ($up === null ? $before : 0));
        $strip->measureOnly($window);
        $probes = array_filter([
            $up === null ? null : new UpToFaderProbe($strip, $channel, $session, $window, $window->delayedBy($arrival + $before)),
            $from === null ? null : new FromFaderProbe($strip, $channel, $session, $window->delayedBy($arrival + $before + $strip->postInserts->latency())),
        ]);
        // Unaligned channels end early, so they run on until the slowest listener is done.
        $end = $map->range->to + $arrival + $before + $strip->postInserts->latency() + ($channel->aligned ? 0 : self::AHEAD * $session->sampleRate);
        $clipped = $up === null ? [] : $this->clipped($channel, $session, $map->range, $progress === null ? null : static fn (): bool => $progress(0, $end - $start));
        if ($clipped === null) {
            return false;
        }
        $captures = $up === null ? [] : self::captures($up, $strip, $store);
        $clock = WorkClock::start();
        try {
            $faults = self::pass($plan, $strip, $captures, $probes, $start, $end, $progress);
            if ($faults === null) {
                array_walk($captures, static fn (AudioCapture $capture) => $capture->discard());

                return false;
            }
            array_walk($captures, static fn (AudioCapture $capture) => $capture->close());
        } catch (Throwable $failure) {
            array_walk($captures, static fn (AudioCapture $capture) => $capture->discard());
            throw $failure;
        }
        $this->keep($strip, $up, $from, array_slice($faults, 0, 1), $probes, ($end - $start) / $clock->shareOfCore(), $session, $channel, $clipped, $store);

        return true;
    }

    /**
     * Runs a channel and its inputs from start to end.
     *
     * @param  array<string, AudioCapture>  $captures  by stage
     * @param  array<UpToFaderProbe|FromFaderProbe>  $probes
     * @param  ?callable(int, int): bool  $progress
     * @return ?list<Fault> of the channel; null when stopped
     */
    private static function pass(Plan $plan, ChannelStrip $strip, array $captures, array $probes, int $start, int $end, ?callable $progress): ?array
    {
        $faults = [];
        for ($sourcePosition = $start; $sourcePosition < $end; $sourcePosition += self::BLOCK) {
            SampleLoops::pause();
            foreach ($plan->strips as $worked) {
                if (! $worked->process($sourcePosition, self::BLOCK, $worked === $strip, null) && $worked === $strip) {
                    $faults[] = new Fault($strip->id, $sourcePosition);
                }
            }
            foreach ($captures as $stage => $capture) {
                $capture->write($strip->passing((string) $stage, self::BLOCK));
            }
            foreach ($probes as $probe) {
                $probe->look($sourcePosition);
            }
            if ($progress !== null && ! $progress(min($end, $sourcePosition + self::BLOCK) - $start, $end - $start)) {
                return null;
            }
        }

        return $faults;
    }

    /** @return array<string, AudioCapture> of the stages that are not recorded yet */
    private static function captures(SurveyPart $part, ChannelStrip $strip, SurveyStore $store): array
    {
        $captures = [];
        foreach ($part->records as $stage) {
            if (! $store->hasCapture($part->hash, $stage)) {
                $strip->keep($stage);
                $captures[$stage] = $store->capture($part->hash, $stage);
            }
        }

        return $captures;
    }

    /**
     * @param  list<Fault>  $faults
     * @param  array<UpToFaderProbe|FromFaderProbe>  $probes
     * @param  float  $frames  that could have been worked in the time it took
     * @param  list<ClippedClip>  $clipped
     */
    private function keep(ChannelStrip $strip, ?SurveyPart $up, ?SurveyPart $from, array $faults, array $probes, float $frames, Session $session, Channel $channel, array $clipped, SurveyStore $store): void
    {
        $audio = $frames * 1e9 / $session->sampleRate;
        [$upTime, $fromTime] = $strip->takeSections();
        $readings = $strip->meters();
        $after = [...array_keys($strip->postInserts->meters()), Tap::POST_FADER];
        foreach ($probes as $probe) {
            $isUp = $probe instanceof UpToFaderProbe;
            $part = $isUp ? $up : $from;
            assert($part !== null);
            $taps = $loads = [];
            foreach ($readings as $stage => $meter) {
                if (in_array((string) $stage, $after, true) !== $isUp) {
                    $taps["{$channel->id}:{$stage}"] = $meter->read();
                }
            }
            $loads[$channel->id] = ($isUp ? $upTime : $fromTime) / $audio;
            foreach (($isUp ? $strip->inserts : $strip->postInserts)->runners() as $stage => $runner) {
                $loads["{$channel->id}:{$stage}"] = $runner->takeNanoseconds() / $audio;
            }
            $store->keep($part->hash, new PartMeasures(
                $taps,
                $loads,
                $isUp && $from !== null ? [] : $faults,
                $probe instanceof UpToFaderProbe ? $probe->figures($clipped) : null,
                $probe instanceof FromFaderProbe ? $probe->figures() : null,
                $probe instanceof FromFaderProbe && $channel->kind === ChannelKind::Main ? $probe->main() : null,
            ));
        }
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

    /** @return array<string, array<string, \Hafen\Engine\Replay>> */
    private static function replays(SurveyPart $part, SurveyStore $store, int $start): array
    {
        $replays = [];
        foreach ($part->needs as [$channel, $hash, $stage]) {
            $replays[$channel][$stage] = $store->replay($hash, $stage, $start);
        }

        return $replays;
    }
}
