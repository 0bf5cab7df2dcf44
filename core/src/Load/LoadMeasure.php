<?php

declare(strict_types=1);

namespace Hafen\Load;

use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Loop;
use Hafen\Engine\WorkClock;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;

/**
 * Measures what a session takes of a core: plays some seconds from its middle as fast as they go, and looks at the clock. That is
 * done several times, and the quickest counts: whatever else the machine did made the others longer.
 */
final readonly class LoadMeasure
{
    /** Seconds that run before, until the JIT has compiled what runs. */
    private const WARM_UP = 1.0;

    private const ROUNDS = 3;

    public function __construct(private Compiler $compiler, private int $blockSize = 512)
    {
    }

    /** Places at which it is looked how much plays. */
    private const MOST_STARTS = 200;

    /**
     * @param  float  $seconds  of sound that each of the rounds plays, above 0
     * @param  ?callable(): bool  $goOn  asked before each block; false stops
     * @return ?SessionLoad null when it was stopped
     *
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function measure(Session $session, float $seconds = 4.0, ?callable $goOn = null): ?SessionLoad
    {
        $rate = $session->sampleRate;
        gc_collect_cycles();
        $memory = memory_get_usage();
        $engine = new Engine($this->compiler, $session, $this->blockSize);
        $frames = max($this->blockSize, (int) ($seconds * $rate));
        // Each round plays the same passage; a session that is shorter goes round.
        $start = self::busiest($session, $frames);
        $engine->loopOver(new Loop($start, max($start + 1, min($session->length, $start + $frames))));
        $engine->start($start);
        if (self::run($engine, (int) (self::WARM_UP * $rate), $goOn) === null) {
            return null;
        }
        $quickest = null;
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $engine->loads();
            $run = self::run($engine, $frames, $goOn);
            if ($run === null) {
                return null;
            }
            $load = self::load($session, $engine, $run, max(0, memory_get_usage() - $memory));
            $quickest = $quickest === null || $load->total < $quickest->total ? $load : $quickest;
        }

        return $quickest;
    }

    /**
     * Where so many frames hold the most clips: a path costs nothing while it rests. In the middle, or at the start of a clip.
     *
     * @return int sample of the session
     */
    private static function busiest(Session $session, int $frames): int
    {
        $clips = array_merge(...array_map(static fn (Channel $channel): array => $channel->source->clips(), $session->channels));
        $middle = max(0, intdiv($session->length - $frames, 2));
        $starts = array_unique(array_map(static fn (Clip $clip): int => max(0, min($clip->start, $session->length - $frames)), $clips));
        // Far more than that are cut from the same takes.
        $starts = array_slice($starts, 0, self::MOST_STARTS);
        $busiest = $middle;
        $most = -1;
        foreach ([$middle, ...$starts] as $start) {
            $held = array_sum(array_map(static fn (Clip $clip): int => max(0, min($clip->end(), $start + $frames) - max($clip->start, $start)), $clips));
            if ($held > $most) {
                [$busiest, $most] = [$start, $held];
            }
        }

        return $busiest;
    }

    /**
     * @param  ?callable(): bool  $goOn
     * @return ?array{int, int, float} nanoseconds it took, frames it ran, share of a core it had; null when it was stopped
     */
    private static function run(Engine $engine, int $frames, ?callable $goOn): ?array
    {
        $nanoseconds = 0;
        $clock = WorkClock::start();
        for ($done = 0; $done < $frames; $done += $count) {
            if ($goOn !== null && ! $goOn()) {
                return null;
            }
            $from = hrtime(true);
            $count = $engine->next()->frames();
            $nanoseconds += hrtime(true) - $from;
        }

        return [$nanoseconds, $done, $clock->shareOfCore()];
    }

    /** @param  array{int, int, float}  $run  see {@see run()} */
    private static function load(Session $session, Engine $engine, array $run, int $memory): SessionLoad
    {
        [$nanoseconds, $ran, $share] = $run;
        $seconds = $ran / $session->sampleRate;
        // On a busy machine part of the time went by without work.
        $load = static fn (float $part): float => $part * $share;
        $afterFader = $engine->loadsAfterFader();
        $loads = $engine->loads();
        $channels = [];
        foreach ($session->channels as $channel) {
            $processors = [];
            foreach ($channel->allInserts() as $insert) {
                if ($insert instanceof ProcessorInsert) {
                    $processors[$insert->id] = $load($loads["{$channel->id}:insert:{$insert->id}"] ?? 0.0);
                }
            }
            $channels[$channel->id] = new ChannelLoad(
                $load($loads[$channel->id] ?? 0.0),
                $load($loads["{$channel->id}:reading"] ?? 0.0),
                $load($afterFader[$channel->id] ?? 0.0),
                $processors,
            );
        }

        return new SessionLoad($load($nanoseconds / 1e9 / $seconds), $channels, $seconds, $memory);
    }
}
