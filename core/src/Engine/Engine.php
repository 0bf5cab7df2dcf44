<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Crossfade;
use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Audio\SampleLoops;
use Hafen\Metering\TapReading;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Session;

/**
 * Runs a session block by block.
 *
 * Positions are samples from the session's start, of the sound that comes out: all latency is taken off. Between blocks the handlers
 * of signals run, see {@see SampleLoops}.
 */
final class Engine
{
    private Plan $plan;

    /** Source position of the next block. */
    private int $reading = 0;

    private Tap $tap;

    private ?Tap $tapBefore = null;

    /** @var list<Tap> */
    private array $watching = [];

    /** @var array<string, Block> */
    private array $watched = [];

    /** Tap that is recorded. */
    private ?Tap $recording = null;

    private ?Block $recorded = null;

    private ?Session $pending = null;

    /** @var list<Feed|ChannelStrip> what has to go silent before the pending session is taken */
    private array $closing = [];

    private ?Loop $loop = null;

    private ?Loop $lastJump = null;

    /** @var list<Fault> */
    private array $faults = [];

    private int $framesTimed = 0;

    /** @var array<string, true> channels nobody hears, see {@see Plan::asleep()} */
    private array $asleep = [];

    /** What {@see asleep} was found for. */
    private string $awakeFor = '';

    private ?Plan $awakeIn = null;

    /**
     * @param  bool  $metered  read every tap; without it only the ends of the channels
     */
    public function __construct(
        private readonly Compiler $compiler,
        Session $session,
        private readonly int $blockSize = 512,
        private readonly bool $metered = true,
    ) {
        $this->plan = $compiler->compile($session);
        $this->tap = new Tap($this->plan->main()->id);
    }

    public function plan(): Plan
    {
        return $this->plan;
    }

    public function tap(): Tap
    {
        return $this->tap;
    }

    /** Listens at another point; false when there is no such tap. The change is faded over one block. */
    public function listenAt(Tap $tap): bool
    {
        if (! $this->plan->has($tap)) {
            return false;
        }
        if ($tap->id() !== $this->tap->id()) {
            $this->tapBefore = $this->tap;
            $this->tap = $tap;
        }

        return true;
    }

    /** Keeps a copy of each block at these taps; inputs of inserts are allowed too ({@see Tap::beforeStage()}). */
    public function watch(Tap ...$taps): void
    {
        $this->watching = array_values($taps);
        $this->watched = [];
    }

    /** @return array<string, Block> what passed in the last block at the taps that are watched and there, by key, in the order they were asked for */
    public function watched(): array
    {
        return $this->watched;
    }

    /** Keeps a copy of each block at this tap for a recording; null ends that. */
    public function record(?Tap $tap): void
    {
        $this->recording = $tap;
        $this->recorded = null;
    }

    /** What passed in the last block at the tap that is recorded; null where there is none, or it is gone. */
    public function recorded(): ?Block
    {
        return $this->recorded;
    }

    /** Position of the next block's first sample, as the sources count: latency is not taken off. */
    public function sourcePosition(): int
    {
        return $this->reading;
    }

    public function loopOver(?Loop $loop): void
    {
        $this->loop = $loop;
    }

    /**
     * Seeks to a position and runs the pre-roll, so that filters and tails are settled.
     *
     * @param  int  $preRoll  samples to run before it, at most from the session's start
     * @param  ?callable(): bool  $goOn  asked before each block of the pre-roll; false stops
     * @return bool false when it was stopped
     */
    public function start(int $position, int $preRoll = 0, ?callable $goOn = null): bool
    {
        foreach ($this->plan->strips as $strip) {
            $strip->reset();
            $strip->settle();
        }
        $this->tapBefore = $this->lastJump = null;
        $this->reading = $position - min($position, $preRoll);
        $loop = $this->loop;
        $this->loop = null;
        // Starts on the same sample for every block length, so that the state is the same.
        for ($left = $position + $this->plan->latencyAt($this->tap) - $this->reading; $left > 0; $left -= $frames) {
            if ($goOn !== null && ! $goOn()) {
                return false;
            }
            $this->next($frames = $left % $this->blockSize === 0 ? $this->blockSize : $left % $this->blockSize);
        }
        $this->loop = $loop;
        // Discards the readings of the pre-roll.
        $this->readings();
        $this->loads();

        return true;
    }

    /** Session position of the next block's first sample. */
    public function position(): int
    {
        $position = $this->reading - $this->plan->latencyAt($this->tap);
        if ($this->lastJump !== null && $this->reading >= $this->lastJump->start && $position < $this->lastJump->start) {
            return $this->lastJump->end - ($this->lastJump->start - $position);
        }

        return $position;
    }

    /**
     * Applies another revision while running. Processors that remain keep their state, values move smoothly. Where a row is rebuilt its
     * channel closes for a moment, and a way that is taken away goes silent before, so that nothing clicks.
     */
    public function change(Session $session): void
    {
        $change = PlanChange::between($this->plan, $session, $this->compiler->arrivals($session));
        if (! $change->needsFade && $this->pending === null) {
            $this->plan = $this->compiler->compile($session, $this->plan);

            return;
        }
        foreach ($change->gone as $feed) {
            $feed->close();
        }
        foreach ($change->rebuilt as $strip) {
            $strip->closeGate();
        }
        $this->closing = [...$change->gone, ...$change->rebuilt];
        $this->pending = $session;
    }

    /**
     * Returns the next block at the monitored tap: always stereo, shorter at the end of a loop.
     *
     * @param  ?int  $most  frames; a whole block where it is left out
     *
     * @throws LoopsNotSafe when something in this process may interrupt it
     * @throws LoopFault when PHP complains
     */
    public function next(?int $most = null): Block
    {
        $most ??= $this->blockSize;
        $frames = $this->loop !== null && $this->reading < $this->loop->end
            ? min($most, $this->loop->end - $this->reading)
            : $most;
        SampleLoops::pause();
        $block = SampleLoops::run(fn (): Block => $this->run($frames));
        $this->reading += $frames;
        if ($this->loop !== null && $this->reading >= $this->loop->end) {
            $this->reading = $this->loop->start;
            $this->lastJump = $this->loop;
        }
        if ($this->pending !== null && ! $this->isClosing()) {
            $this->plan = $this->compiler->compile($this->pending, $this->plan);
            $this->pending = null;
            $this->closing = [];
            foreach ($this->plan->strips as $strip) {
                $strip->openGate();
            }
            if (! $this->plan->has($this->tap)) {
                $this->tap = new Tap($this->plan->main()->id);
            }
        }

        return $block;
    }

    /** @return list<Fault> faults since last asked */
    public function faults(): array
    {
        $faults = $this->faults;
        $this->faults = [];

        return $faults;
    }

    /**
     * Returns and resets the meter readings of every tap, by tap id.
     *
     * @return array<string, TapReading>
     */
    public function readings(): array
    {
        $readings = [];
        foreach ($this->plan->strips as $id => $strip) {
            foreach ($strip->meters() as $stage => $meter) {
                $readings["{$id}:{$stage}"] = $meter->read();
            }
        }

        return $readings;
    }

    /** @return list<string> keys of {@see readings()}, in its order */
    public function tapIds(): array
    {
        $keys = [];
        foreach ($this->plan->strips as $id => $strip) {
            foreach (array_keys($strip->meters()) as $stage) {
                $keys[] = "{$id}:{$stage}";
            }
        }

        return $keys;
    }

    /** @return list<string> keys of {@see loads()}, in its order */
    public function loadIds(): array
    {
        $keys = [];
        foreach ($this->plan->strips as $id => $strip) {
            $keys[] = (string) $id;
            $keys[] = "{$id}:reading";
            foreach (array_keys($strip->runners()) as $stage) {
                $keys[] = "{$id}:{$stage}";
            }
        }

        return $keys;
    }

    /**
     * Returns and resets the load, compute time over audio time: of channels by id, of inserts by "channel:insert:ID", of reading
     * clips, frozen files and what others feed by "channel:reading".
     *
     * @return array<string, float> 1.0 is the whole of one core
     */
    public function loads(): array
    {
        $audio = $this->framesTimed * 1e9 / $this->plan->session->sampleRate;
        $this->framesTimed = 0;
        $loads = [];
        foreach ($this->plan->strips as $id => $strip) {
            $loads[$id] = $audio > 0 ? $strip->takeNanoseconds() / $audio : 0.0;
            $reading = $strip->takeReadingNanoseconds();
            $loads["{$id}:reading"] = $audio > 0 ? $reading / $audio : 0.0;
            foreach ($strip->runners() as $stage => $runner) {
                $nanoseconds = $runner->takeNanoseconds();
                $loads["{$id}:{$stage}"] = $audio > 0 ? $nanoseconds / $audio : 0.0;
            }
        }

        return $loads;
    }

    /**
     * Returns the load of each channel's fader and all that comes after it, by channel id; {@see loads()} resets it.
     *
     * @return array<string, float> 1.0 is the whole of one core
     */
    public function loadsAfterFader(): array
    {
        $audio = $this->framesTimed * 1e9 / $this->plan->session->sampleRate;

        return array_map(static fn (ChannelStrip $strip): float => $audio > 0 ? $strip->nanosecondsAfterFader() / $audio : 0.0, $this->plan->strips);
    }

    private function run(int $frames): Block
    {
        /** @var array<string, StageTaps> $taps */
        $taps = [];
        foreach (array_filter([$this->tap, $this->tapBefore, $this->recording, ...$this->watching]) as $tap) {
            $taps[$tap->channel] ??= new StageTaps;
            $taps[$tap->channel]->want($tap->stage);
        }
        $this->wake();
        foreach ($this->plan->strips as $id => $strip) {
            if (isset($this->asleep[$id])) {
                continue;
            }
            if (! $strip->process($this->reading, $frames, $this->metered, $taps[$id] ?? null)) {
                $this->faults[] = new Fault((string) $id, $this->reading);
            }
        }
        $this->framesTimed += $frames;
        $this->recorded = $this->recording === null ? null : ($taps[$this->recording->channel] ?? null)?->at($this->recording->stage);
        $this->watched = [];
        foreach ($this->watching as $tap) {
            $passed = ($taps[$tap->channel] ?? null)?->at($tap->stage);
            if ($passed !== null) {
                $this->watched[$tap->id()] = $passed;
            }
        }
        $block = self::heardAt($this->tap, $taps, $frames);
        if ($this->tapBefore !== null) {
            Crossfade::mix($block, self::heardAt($this->tapBefore, $taps, $frames), 0.0, 1.0);
            $this->tapBefore = null;
        }

        return $block;
    }

    /** Finds out who is heard, and clears the state of channels that are heard again. */
    private function wake(): void
    {
        $taps = array_filter([$this->tap, $this->tapBefore, $this->recording, ...$this->watching]);
        $for = implode(' ', array_map(static fn (Tap $tap): string => $tap->id(), $taps));
        if ($this->awakeIn === $this->plan && $this->awakeFor === $for) {
            return;
        }
        $wanted = $sources = [];
        foreach ($taps as $tap) {
            $wanted[$tap->channel] = true;
            if ($tap->stage === Tap::SOURCE) {
                $sources[$tap->channel] = true;
            }
        }
        $asleep = $this->plan->asleep($wanted, $sources);
        foreach (array_map(strval(...), array_keys(array_diff_key($this->asleep, $asleep))) as $woken) {
            $this->plan->strip($woken)?->reset();
            foreach ($this->plan->feeds as $feed) {
                if ($feed->from() === $woken) {
                    $feed->reset();
                }
            }
        }
        $this->asleep = $asleep;
        $this->awakeFor = $for;
        $this->awakeIn = $this->plan;
    }

    /** @param  array<string, StageTaps>  $taps */
    private static function heardAt(Tap $tap, array $taps, int $frames): Block
    {
        $block = clone ($taps[$tap->channel]->at($tap->stage) ?? Block::silence($frames));
        $block->widen();

        return $block;
    }

    private function isClosing(): bool
    {
        foreach ($this->closing as $closing) {
            if ($closing instanceof Feed ? $closing->moving() : $closing->gateMoving()) {
                return true;
            }
        }

        return false;
    }
}
