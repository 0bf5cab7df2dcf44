<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Crossfade;
use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\Samples;
use Hafen\Engine\Parallel\Processes;
use Hafen\Engine\Parallel\ProcessGone;
use Hafen\Metering\TapReading;
use Hafen\Note\HeldKeys;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Session;

/**
 * Runs a session block by block, in this process or in several.
 *
 * Positions are samples from the session's start, of the sound that comes out: all latency is taken off. Between blocks the handlers
 * of signals run, see {@see SampleLoops}.
 */
final class Engine
{
    private readonly Section $section;

    /** Source position of the block that is worked next. */
    private int $reading = 0;

    /** The block that was worked last; null before the first one. */
    private ?Piece $piece = null;

    /** @var list<Tap> what is listened to in its stretch */
    private array $listened = [];

    private HeardAt $heard;

    private ?HeardAt $heardBefore = null;

    /** @var ?array{Plan, HeardAt, int} samples by which what is heard is late in that plan */
    private ?array $heardLatency = null;

    /** @var list<Tap> */
    private array $watching = [];

    /** @var list<Tap> that are recorded */
    private array $recording = [];

    /** The block that was given last, with what passed at the taps. */
    private ?PassedBlock $passed = null;

    /** @var list<PassedBlock> that were worked before their turn, as something had to change */
    private array $ready = [];

    private ?Session $pending = null;

    private ?Loop $loop = null;

    private ?Loop $lastJump = null;

    /** What {@see wake()} last looked at. */
    private string $awakeFor = '';

    private ?Plan $awakeIn = null;

    /** @var ?array{Plan, list<array{Tap, list<int>}>} what goes out at the interface and at which ports, in that plan */
    private ?array $outgoing = null;

    /** Whether filters and tails are run in: nothing comes in or goes out meanwhile. */
    private bool $isRunningIn = false;

    /** Whether sound comes in and goes out at the interface. */
    private bool $isInterfaceOpen;

    private bool $isStanding = false;

    /**
     * @param  bool  $metered  read every tap; without it only the ends of the channels
     * @param  ?Processes  $processes  other processes that take part; none where it is left out
     * @param  int  $blockSize  frames of the longest block
     */
    public function __construct(
        private readonly Compiler $compiler,
        Session $session,
        private readonly int $blockSize = 512,
        private readonly bool $metered = true,
        private readonly ?Processes $processes = null,
    ) {
        $this->isInterfaceOpen = $compiler->blocks !== null;
        $session = $compiler->played($session);
        $processes?->open($session, $blockSize, $metered);
        $this->section = new Section($compiler, $session, null, $processes?->elsewhere() ?? new Elsewhere);
        $processes?->opened();
        $this->heard = new HeardAt($this->mainTap());
    }

    public function plan(): Plan
    {
        return $this->section->plan();
    }

    /** Lets sound in and out at the interface, or no longer: then blocks can be longer. Live inputs are silent meanwhile. */
    public function openInterface(bool $isOpen): void
    {
        if ($this->compiler->blocks !== null && $isOpen !== $this->isInterfaceOpen) {
            $this->completeBlock();
            $this->isInterfaceOpen = $isOpen;
        }
    }

    public function isInterfaceOpen(): bool
    {
        return $this->isInterfaceOpen;
    }

    /** Frames of a block, but for the last before a loop begins anew. */
    public function blockFrames(): int
    {
        return $this->isInterfaceOpen ? $this->compiler->blocks?->frames($this->blockSize) ?? $this->blockSize : $this->blockSize;
    }

    public function tap(): Tap
    {
        return $this->heard->tap;
    }

    private function mainTap(): Tap
    {
        return new Tap($this->plan()->main()->id);
    }

    /**
     * Listens at another point; false when there is no such tap. The change is faded over one block.
     *
     * @param  bool  $besideMain  on the right ear, with the main on the left one; each as mono
     */
    public function listenAt(Tap $tap, bool $besideMain = false): bool
    {
        if (! $this->plan()->has($tap)) {
            return false;
        }
        $heard = new HeardAt($tap, $besideMain ? $this->mainTap() : null);
        if ($heard != $this->heard) {
            $this->completeBlock();
            $this->heardBefore = $this->heard;
            $this->heard = $heard;
        }

        return true;
    }

    /** Keeps a copy of each block at these taps; inputs of inserts are allowed too ({@see Tap::beforeStage()}). */
    public function watch(Tap ...$taps): void
    {
        $this->completeBlock();
        $this->watching = array_values($taps);
    }

    /** @return array<string, Block> what passed in the last block at the taps that are watched and there, by key, in the order they were asked for */
    public function watched(): array
    {
        return $this->passed->watched ?? [];
    }

    /** Keeps a copy of each block at these taps for recordings, and at no others. */
    public function record(Tap ...$taps): void
    {
        $this->completeBlock();
        $this->recording = array_values($taps);
    }

    /** @return array<string, Block> what passed in the last block at the taps that are recorded and there, by tap id */
    public function recorded(): array
    {
        return $this->passed->recorded ?? [];
    }

    /** Says to the interface that nothing plays, whatever the position: only live inputs sound. */
    public function standStill(): void
    {
        $this->isStanding = true;
    }

    /** Position of the next block's first sample, as the sources count: latency is not taken off. */
    public function sourcePosition(): int
    {
        return $this->ready[0]->source ?? $this->reading;
    }

    public function loopOver(?Loop $loop): void
    {
        $this->completeBlock();
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
        $this->completeBlock();
        $this->section->reset();
        $this->processes?->reset();
        $this->heardBefore = $this->lastJump = $this->piece = null;
        $this->ready = [];
        // A count-in begins before the session's start.
        $this->reading = $position - max(0, min($position, $preRoll));
        $loop = $this->loop;
        $this->loop = null;
        $this->runsIn(true);
        // Starts on the same sample for every block length, so that the state is the same.
        for ($left = $position + $this->plan()->latencyAt($this->heard->tap) - $this->reading; $left > 0; $left -= $stretch) {
            $stretch = $left % $this->blockSize === 0 ? $this->blockSize : $left % $this->blockSize;
            do {
                if ($goOn !== null && ! $goOn()) {
                    $this->runsIn(false);

                    return false;
                }
                $piece = $this->following($stretch);
                $this->work($piece, $left > $stretch);
            } while (! $piece->isLast());
        }
        $this->loop = $loop;
        $this->runsIn(false);
        // Discards the readings of the pre-roll.
        $this->readings();
        $this->loads();

        return true;
    }

    private function runsIn(bool $isRunningIn): void
    {
        $this->isRunningIn = $isRunningIn;
        $this->section->openInputs(! $isRunningIn);
    }

    /** Whether the next block goes on with a stretch that was begun: what is changed now is heard behind it. */
    public function isWithinStretch(): bool
    {
        return $this->ready !== [] || $this->piece?->isLast() === false;
    }

    /** Session position of the next block's first sample. */
    public function position(): int
    {
        return $this->ready[0]->position ?? $this->heardPosition();
    }

    /**
     * Plays keys that somebody holds on a note channel, from the next block on, until it is told otherwise. What follows the notes of that
     * channel follows them as well.
     *
     * @param  ?HeldKeys  $held  null is none
     */
    public function hold(?HeldKeys $held): void
    {
        $this->completeBlock();
        $this->section->hold($held);
        $this->processes?->hold($held);
    }

    /**
     * Applies another revision while running. Processors that remain keep their state, values move smoothly. Where a row is rebuilt its
     * channel closes for a moment, and a way that is taken away goes silent before, so that nothing clicks.
     */
    public function change(Session $session): void
    {
        $this->completeBlock();
        $session = $this->compiler->played($session);
        $moving = $this->processes?->moving($session) ?? [];
        $change = PlanChange::between($this->plan(), $session, $this->compiler->arrivals($session))->moving($moving);
        if (! $change->needsFade && $this->pending === null) {
            $this->take($session);

            return;
        }
        $this->section->close($change);
        $this->processes?->close($change);
        $this->pending = $session;
    }

    /**
     * Returns the next block at the monitored tap: always stereo, shorter at the end of a loop.
     *
     * @throws LoopsNotSafe when something in this process may interrupt it
     * @throws LoopFault when PHP complains
     * @throws ProcessGone when another process of the engine ended, and is not to be replaced
     */
    public function next(): Block
    {
        $this->passed = array_shift($this->ready) ?? $this->work($this->nextPiece(), true);

        return $this->passed->block;
    }

    /** @return list<Fault> faults since last asked */
    public function faults(): array
    {
        return [...$this->section->faults(), ...($this->processes?->faults() ?? [])];
    }

    /** In how many processes it runs, this one included. */
    public function processCount(): int
    {
        return 1 + count($this->processes?->ids() ?? []);
    }

    /** @return int processes of the engine that ended and were replaced since last asked */
    public function takeReplaced(): int
    {
        return $this->processes?->takeReplaced() ?? 0;
    }

    /** @return array<string, string> why frozen channels play live, by channel id: their file cannot be played */
    public function unplayable(): array
    {
        return $this->plan()->unplayable + ($this->processes?->unplayable() ?? []);
    }

    /**
     * Reads every tap of these channels only, as nobody looks at the others; of those the end is read alone. It holds from one revision
     * to the next.
     *
     * @param  ?list<string>  $channels  ids; those that are not there are passed over; null is all channels
     */
    public function meterOnly(?array $channels): void
    {
        $metered = $channels === null ? null : array_fill_keys($channels, true);
        $this->section->meterOnly($metered);
        $this->processes?->meterOnly($metered);
    }

    /**
     * Returns and resets the meter readings, by tap id: of every tap that is read, see {@see meterOnly()}.
     *
     * @return array<string, TapReading> in the order of {@see tapIds()}; what other processes have just begun to read is not there yet
     */
    public function readings(): array
    {
        return $this->section->readings() + ($this->processes?->readings() ?? []);
    }

    /** @return list<string> all taps, whether they are read or not */
    public function tapIds(): array
    {
        return [...$this->section->tapIds(), ...($this->processes?->tapIds() ?? [])];
    }

    /** @return list<string> keys of {@see loads()}, in its order */
    public function loadIds(): array
    {
        return [...$this->section->loadIds(), ...($this->processes?->loadIds() ?? [])];
    }

    /**
     * Returns and resets the load, compute time over audio time, see {@see Section::loads()}.
     *
     * @return array<string, float> 1.0 is the whole of one core
     */
    public function loads(): array
    {
        return $this->section->loads() + ($this->processes?->loads() ?? []);
    }

    /**
     * Returns the load of each channel's fader and all that comes after it, by channel id; {@see loads()} resets it. Of channels
     * this process works.
     *
     * @return array<string, float> 1.0 is the whole of one core
     */
    public function loadsAfterFader(): array
    {
        return $this->section->loadsAfterFader();
    }

    /** Works what is begun of a stretch, here and in other processes, before something changes that it should not hear of. */
    private function completeBlock(): void
    {
        while ($this->piece?->isLast() === false || $this->processes?->isAhead() === true) {
            $this->ready[] = $this->work($this->nextPiece(), false);
        }
    }

    private function nextPiece(): Piece
    {
        return $this->following($this->nextStretch());
    }

    /** @param  int  $stretch  frames of a stretch that begins where the last one ends */
    private function following(int $stretch): Piece
    {
        return $this->piece?->next($this->blockFrames()) ?? Piece::first($this->reading, $stretch, $this->blockFrames());
    }

    private function nextStretch(): int
    {
        return $this->loop !== null && $this->reading < $this->loop->end ? min($this->blockSize, $this->loop->end - $this->reading) : $this->blockSize;
    }

    private function heardPosition(): int
    {
        $plan = $this->plan();
        if ($this->heardLatency === null || $this->heardLatency[0] !== $plan || $this->heardLatency[1] !== $this->heard) {
            $this->heardLatency = [$plan, $this->heard, $plan->latencyAt($this->heard->tap)];
        }

        return $this->positionAt($this->heardLatency[2]);
    }

    /** Session position of what is so late in the next block. */
    private function positionAt(int $latency): int
    {
        $position = $this->reading - $latency;
        if ($this->lastJump !== null && $this->reading >= $this->lastJump->start && $position < $this->lastJump->start) {
            return $this->lastJump->end - ($this->lastJump->start - $position);
        }

        return $position;
    }

    /** @param  bool  $goesOn  whether a block follows: other processes begin it already */
    private function work(Piece $piece, bool $goesOn): PassedBlock
    {
        SampleLoops::pause();
        $passed = SampleLoops::run(fn (): PassedBlock => $this->run($piece, $goesOn));
        if ($this->loop !== null && $this->reading + $piece->frames >= $this->loop->end) {
            $this->lastJump = $this->loop;
        }
        $this->reading = $this->after($piece->frames);
        $this->piece = $piece;
        if ($this->pending !== null && $piece->isLast() && ! $this->section->isClosing() && ! ($this->processes?->isClosing() ?? false)) {
            $pending = $this->pending;
            $this->pending = null;
            $this->take($pending);
            if (! $this->plan()->has($this->heard->tap)) {
                $this->heard = new HeardAt($this->mainTap());
            }
        }

        return $passed;
    }

    /** Source position after so many frames. */
    private function after(int $frames): int
    {
        $after = $this->reading + $frames;

        return $this->loop !== null && $after >= $this->loop->end ? $this->loop->start : $after;
    }

    private function take(Session $session): void
    {
        $this->processes?->change($session);
        $this->section->change($session, null, $this->processes?->elsewhere() ?? new Elsewhere);
        $this->processes?->changed();
    }

    private function run(Piece $piece, bool $goesOn): PassedBlock
    {
        $frames = $piece->frames;
        $position = $this->heardPosition();
        $outgoing = $this->outgoing();
        if ($piece->isFirst()) {
            $this->listened = [...$this->heard->taps(), ...($this->heardBefore?->taps() ?? []), ...$this->recording, ...$this->watching, ...array_column($outgoing, 0)];
            $this->wake($this->listened);
        }
        /** @var array<string, StageTaps> $taps */
        $taps = [];
        foreach ($this->listened as $tap) {
            $taps[$tap->channel] ??= new StageTaps;
            $taps[$tap->channel]->want($tap->stage);
        }
        // Units of outboard are run in as well; nothing else goes out or comes in meanwhile.
        $interface = $this->isInterfaceOpen && (! $this->isRunningIn || $this->plan()->usesHardware()) ? $this->compiler->blocks : null;
        $interface?->begin($frames);
        if ($this->processes === null) {
            $this->section->process($this->plan()->strips, $piece, $this->metered, $taps);
        } else {
            $this->runWithOthers($this->processes, $piece, $goesOn, $taps);
        }
        $this->section->processed($frames);
        $interface?->end(
            $frames,
            $this->isRunningIn ? [] : self::atPorts($outgoing, $taps),
            $this->isStanding || $this->isRunningIn ? null : $this->positionAt($this->plan()->latency()),
        );
        $block = self::heard($this->heard, $taps, $frames);
        if ($this->heardBefore !== null) {
            Crossfade::mix($block, self::heard($this->heardBefore, $taps, $frames), 0.0, 1.0);
            $this->heardBefore = null;
        }

        return new PassedBlock(
            $block,
            $position,
            $this->reading,
            self::passedAt($this->recording, $taps),
            self::passedAt($this->watching, $taps),
        );
    }

    /**
     * @param  list<Tap>  $wanted
     * @param  array<string, StageTaps>  $taps
     * @return array<string, Block> by tap id
     */
    private static function passedAt(array $wanted, array $taps): array
    {
        $passed = [];
        foreach ($wanted as $tap) {
            $block = ($taps[$tap->channel] ?? null)?->at($tap->stage);
            if ($block !== null) {
                $passed[$tap->id()] = $block;
            }
        }

        return $passed;
    }

    /**
     * What goes out at the interface: the main, and the cues that have a pair of their own.
     *
     * @return list<array{Tap, list<int>}> with the numbers of the ports
     */
    private function outgoing(): array
    {
        if (! $this->isInterfaceOpen) {
            return [];
        }
        if ($this->outgoing === null || $this->outgoing[0] !== $this->plan()) {
            $outgoing = [];
            foreach ($this->plan()->session->channels as $channel) {
                $ports = InterfacePorts::numbers($channel->output, 'hw');
                if ($ports !== []) {
                    $outgoing[] = [new Tap($channel->id), $ports];
                }
            }
            $this->outgoing = [$this->plan(), $outgoing];
        }

        return $this->outgoing[1];
    }

    /**
     * @param  list<array{Tap, list<int>}>  $outgoing
     * @param  array<string, StageTaps>  $taps
     * @return array<int, list<float>> by port
     */
    private static function atPorts(array $outgoing, array $taps): array
    {
        $outputs = [];
        foreach ($outgoing as [$tap, $ports]) {
            $block = ($taps[$tap->channel] ?? null)?->at($tap->stage);
            if ($block === null) {
                continue;
            }
            foreach ($ports as $side => $port) {
                $outputs[$port] = $side === 0 ? $block->left : $block->right();
            }
        }

        return $outputs;
    }

    /**
     * While others work their channels this process works those of its own that do not wait for them. Before it works the rest, the
     * others begin the next stretch.
     *
     * @param  array<string, StageTaps>  $taps
     */
    private function runWithOthers(Processes $others, Piece $piece, bool $goesOn, array $taps): void
    {
        $plan = $this->plan();
        if ($piece->isFirst() && ! $others->isAhead()) {
            $others->begin($piece->start, $piece->stretch);
        }
        $this->section->process($plan->independent, $piece, $this->metered, $taps);
        if ($piece->isFirst()) {
            $others->finish();
        }
        $others->passPiece($piece, $taps);
        // What is about to change has to change in all processes at the same block.
        if ($piece->isFirst() && $goesOn && $this->pending === null && $this->heardBefore === null) {
            $reading = $this->reading;
            $this->reading = $this->after($piece->stretch);
            $others->begin($this->reading, $this->nextStretch(), true);
            $this->reading = $reading;
        }
        $this->section->process(array_diff_key($plan->strips, $plan->independent), $piece, $this->metered, $taps);
    }

    /**
     * Finds out who is heard, and clears the state of channels that are heard again.
     *
     * @param  list<Tap>  $listened
     */
    private function wake(array $listened): void
    {
        $for = implode(' ', array_map(static fn (Tap $tap): string => $tap->id(), $listened));
        if ($this->awakeIn === $this->plan() && $this->awakeFor === $for) {
            return;
        }
        $wanted = $sources = [];
        foreach ($listened as $tap) {
            $wanted[$tap->channel] = true;
            if ($tap->stage === Tap::SOURCE) {
                $sources[$tap->channel] = true;
            }
        }
        $asleep = $this->plan()->asleep($wanted, $sources);
        $this->section->sleep($asleep);
        $reading = array_filter($this->plan()->strips, static fn (ChannelStrip $strip, string|int $id): bool => ! isset($asleep[$id]) && ($strip->readsSource() || isset($sources[$id])), ARRAY_FILTER_USE_BOTH);
        $this->processes?->listen($listened, $asleep, array_fill_keys(array_keys($reading), true));
        $this->awakeFor = $for;
        $this->awakeIn = $this->plan();
    }

    /** @param  array<string, StageTaps>  $taps */
    private static function heard(HeardAt $at, array $taps, int $frames): Block
    {
        $block = self::heardAt($at->tap, $taps, $frames);
        if ($at->main !== null) {
            $main = self::heardAt($at->main, $taps, $frames);
            $block->right = Samples::mid($block->left, $block->right);
            $block->left = Samples::mid($main->left, $main->right);
        }

        return $block;
    }

    /** @param  array<string, StageTaps>  $taps */
    private static function heardAt(Tap $tap, array $taps, int $frames): Block
    {
        $block = clone ($taps[$tap->channel]->at($tap->stage) ?? Block::silence($frames));
        $block->widen();

        return $block;
    }
}
