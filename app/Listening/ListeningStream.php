<?php

declare(strict_types=1);

namespace App\Listening;

use App\Models\Listening;
use App\Models\StoredSession;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Work\PlaybackLoad;
use Generator;
use Hafen\Audio\Block;
use Hafen\Edit\EditRefused;
use Hafen\Engine\ClickPlayer;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Loop;
use Hafen\Engine\Monitoring;
use Hafen\Engine\Tap;
use Hafen\Metering\LoudnessMeter;
use Hafen\Note\HeldKeys;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Routing\QuickMonitoring;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Automation\NoteSteering;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundControls;

/**
 * Runs the engine for one listener and yields the frames of its stream, paced to the clock. Before each block it looks
 * whether the session or the listener's options changed, and goes on with them at once.
 */
final class ListeningStream
{
    /** Frames of sound gathered before they are sent, at least: 32 ms at 48 kHz; 11 ms while a live input is heard. */
    private const GATHERED = 1536;

    private const GATHERED_LIVE = 512;

    /** Frames of sound between two figures of loudness: about a third of a second. */
    private const LOUDNESS_EVERY = 10;

    /** Seconds between two readings of the interface's inputs. */
    private const INPUTS_EVERY = 0.08;

    /** Frames of sound between two looks at an insert by frequency: about a quarter of a second. */
    private const WATCH_EVERY = 8;

    /** Peak of the click in dBFS. */
    private const CLICK = -12.0;

    /** Seconds run in where sound was running, so that it need not wait long. */
    public const SHORT_RUN_IN = 0.4;

    private int $storedId = 0;

    private Session $session;

    private Engine $engine;

    private Compiler $compiler;

    private ?ListeningOptions $options = null;

    /** The keys somebody held last: what they moved stays there when they are let go. */
    private ?HeldKeys $pressed = null;

    /** Whether those move selectors or choose sounds. */
    private bool $keysSteer = false;

    /** Sample it started at. */
    private int $from = 0;

    /** @var list<string> order of the taps in the layout sent last */
    private array $laidOut = [];

    /** @var array<string, true> channels whose faults were told */
    private array $told = [];

    public function __construct(
        private readonly SessionBook $book,
        private readonly EngineFactory $engines,
        private readonly Comparison $comparison,
        private readonly WatchedInsert $watched,
        private readonly Recordings $recordings,
        private readonly OpenInterface $open,
        private readonly HeldUnits $units,
        private readonly PlaybackLoad $playback,
        private readonly ProcessorCatalogue $processors,
        private readonly float $lead,
        private readonly float $preRoll,
    ) {
    }

    /**
     * @param  int  $from  sample to start at
     * @param  bool  $isSoon  with a short run-in, as sound was running
     * @return Generator<int, string> frames, see {@see Frames}
     */
    public function frames(Listening $listening, int $from, bool $isSoon = false): Generator
    {
        yield Frames::HEADER;
        try {
            yield from $this->played($listening, $from, $isSoon ? min(self::SHORT_RUN_IN, $this->preRoll) : $this->preRoll);
        } catch (Refusal $refusal) {
            // Sound that cannot be trusted is not sent: a fault in the engine, a recording that is gone.
            yield Frames::notice(['kind' => 'refused', 'message' => $refusal->line()]);
            yield Frames::end();
        } finally {
            $this->playback->end($listening->id);
            $this->recordings->end();
            $this->open->keepClipped();
            $this->units->release();
        }
    }

    /**
     * @param  float  $preRoll  seconds run in before it
     * @return Generator<int, string>
     *
     * @throws Refusal
     */
    private function played(Listening $listening, int $from, float $preRoll): Generator
    {
        // From the pre-roll on: what plays comes before all background work.
        $this->playback->tell($listening->id, 1.0);
        $reader = new ListeningOptionsReader($listening->id);
        $stored = StoredSession::query()->findOrFail($listening->session_id);
        $this->storedId = $stored->id;
        $this->session = $this->book->open($stored);
        $rate = $this->session->sampleRate;
        $options = $reader->read();
        $this->from = $from;
        $this->session = $options === null ? $this->session : $this->heardIn($this->session, $options);
        $this->compiler = $this->engines->compiler($rate, $this->open->open($this->session, ($options->record ?? []) !== []));
        $units = $this->units->notice();
        $this->engine = $this->engines->processes($rate)->engineToPlay($this->compiler, $this->session);
        if ($options?->standing === true) {
            $this->engine->standStill();
        }
        $this->options = new ListeningOptions($stored->change, null, null, null, null, 1, false, $options?->sweep, armed: $options->armed ?? [], quick: $options?->quick);
        $this->engine->openInterface(false);
        if ($options !== null) {
            yield from $this->follow($options, $from, false);
        }
        $this->engine->start($from, (int) ($preRoll * $rate));
        $this->comparison->start($from, (int) ($preRoll * $rate));
        yield $this->layout();
        if ($units['busy'] !== []) {
            yield Frames::notice($units);
        }

        $pace = new Pace(min(0.4, $this->lead));
        $pace->comeNear($options?->played !== null);
        $loudness = new LoudnessMeter($rate);
        $sent = 0;
        $told = $read = 0.0;
        $isToldLate = false;
        while (! connection_aborted()) {
            $blocks = [];
            $position = $this->engine->position();
            $expected = $position;
            $busy = 0;
            do {
                // What is asked for within a stretch would be heard no sooner.
                $options = $options !== null && $this->engine->isWithinStretch() ? $options : $reader->read();
                if ($options === null || $options->stopped) {
                    yield Frames::end();

                    return;
                }
                $start = hrtime(true);
                if ($options !== $this->options) {
                    $set = $this->open->follow($options->setting);
                    if ($set !== null) {
                        yield Frames::notice($set);
                    }
                    if ($set !== null && ! $set['isSame']) {
                        yield Frames::end();

                        return;
                    }
                    yield from $this->follow($options, $this->engine->position(), true);
                    $late = $this->open->lateBy($this->session);
                    if ($late > 0.0 && ! $this->recordings->isOn()) {
                        yield Frames::notice(['kind' => 'interface-set', 'isSame' => false]);
                        yield Frames::end();

                        return;
                    }
                    if ($late > 0.0 && ! $isToldLate) {
                        // A take is not interrupted.
                        $isToldLate = true;
                        yield Frames::notice(['kind' => 'heard-late', 'milliseconds' => round($late, 1)]);
                    }
                }
                $blocks[] = $block = $this->block();
                $busy += hrtime(true) - $start;
                $expected += $block->frames();
            } while ($expected - $position < ($options->played !== null || Monitoring::isLive($this->session) ? self::GATHERED_LIVE : self::GATHERED) && $this->engine->position() === $expected);

            $seconds = ($expected - $position) / $rate;
            if ($this->engine->tapIds() !== $this->laidOut) {
                // A rebuilt row comes in a block after its edit; the figures must not be read in the old order.
                yield $this->layout();
            }
            yield Frames::audio($position, $blocks);
            array_walk($blocks, static fn (Block $block) => $loudness->measure($block));
            if (++$sent % self::LOUDNESS_EVERY === 0) {
                yield Frames::notice(['kind' => 'loudness', 'momentary' => $loudness->momentary(), 'shortTerm' => $loudness->shortTerm()]);
            }
            if ($this->recordings->isOn() && $sent % self::LOUDNESS_EVERY === 0) {
                yield Frames::notice($this->recordings->notice($rate));
            }
            $read += $seconds;
            if ($read >= self::INPUTS_EVERY && $this->engine->isInterfaceOpen()) {
                $read = 0.0;
                yield Frames::notice($this->open->notice());
            }
            if ($this->watched->isOn() && $sent % self::WATCH_EVERY === 0) {
                yield Frames::notice($this->watched->notice());
            }
            // Who only looks at levels hears no gap: nothing has to give way.
            $isHeard = ! $options->standing || $options->played !== null || Monitoring::isLive($this->session);
            if ($isHeard && microtime(true) - $told > PlaybackLoad::TOLD_EVERY) {
                $told = microtime(true);
                // Others take about as much as this one.
                $this->playback->tell($listening->id, $this->engine->processCount() * $busy / 1e9 / $seconds);
            }
            yield Frames::meters($position, $busy / 1e9 / $seconds, $this->laidOut, $this->engine->readings(), $this->engine->loads());
            if ($this->comparison->hasMoved()) {
                yield Frames::notice($this->comparison->notice($options->side));
            }
            if ($this->engine->takeReplaced() > 0) {
                yield Frames::notice(['kind' => 'process-replaced', 'position' => $position]);
            }
            foreach ($this->engine->faults() as $fault) {
                if (! isset($this->told[$fault->channel])) {
                    $this->told[$fault->channel] = true;
                    yield Frames::notice(['kind' => 'fault', 'channel' => $fault->channel, 'position' => $fault->position]);
                }
            }
            $isOver = $options->loopEnd === null && $this->engine->position() >= $this->session->length;
            // Who plays something in may go on behind the end: the session grows to hold it.
            if ($isOver && ! $options->standing && ! $this->recordings->takeInputs()) {
                yield Frames::end();

                return;
            }
            $pace->comeNear($options->played !== null);
            $pace->sent($seconds, $busy / 1e9 / $seconds);
        }
    }

    private function block(): Block
    {
        $source = $this->engine->sourcePosition();
        $position = $this->engine->position();
        $block = $this->engine->next();
        $this->recordings->take($this->engine, $block, $source, $this->session->sampleRate);
        $this->watched->look($this->engine);

        $block = $this->comparison->heard($block, $position, $this->options->side ?? 1);
        if ($this->options?->click === true && ! $this->options->standing) {
            (new ClickPlayer($this->session->sampleRate, $this->session->tempo))->add($block, $position, self::CLICK);
        }

        return $block;
    }

    /** @return Generator<int, string> frames that tell of it */
    private function follow(ListeningOptions $options, int $position, bool $playing): Generator
    {
        $before = $this->options;
        $this->options = $options;
        if ($before === null || $options->change !== $before->change || $options->sweep != $before->sweep || $options->armed !== $before->armed || $options->quick !== $before->quick || $this->isSteered($options, $before) || $this->units->areFreed()) {
            yield from $this->change($options);
        }
        if ($options->played != $before?->played) {
            $this->engine->hold($options->played);
            $this->comparison->hold($options->played);
        }
        if ($options->tap !== $before?->tap || $options->beside !== $before?->beside) {
            $tap = $options->tap === null ? new Tap($this->session->main()->id) : Tap::fromString($options->tap);
            if ($tap === null || ! $this->engine->listenAt($tap, $options->beside)) {
                yield Frames::notice(['kind' => 'tap-gone', 'tap' => $options->tap]);
            } else {
                $this->comparison->listenAt($tap, $options->beside);
            }
        }
        if ($options->loopStart !== $before?->loopStart || $options->loopEnd !== $before?->loopEnd) {
            $loop = self::loop($options);
            $this->engine->loopOver($loop);
            $this->comparison->loopOver($loop);
        }
        if ($options->metered !== $before?->metered) {
            $this->engine->meterOnly($options->metered);
        }
        if ($options->watch !== $before?->watch) {
            $this->watched->at($options->watch, $this->session, $this->engine);
        }
        if ($playing) {
            $this->recordings->follow($options->record, $options->punch, $this->storedId, $this->session, $this->engine, $this->open->interface());
        }
        // Until what was heard live has faded out as well.
        $isLive = Monitoring::isLive($this->session) || Monitoring::isLive($this->engine->plan()->session);
        $isOpen = $options->interface || $options->standing || $isLive || UnitPlaces::of($this->session) !== [] || $this->recordings->takeInputs();
        // The other side works in blocks as long.
        $isAnother = $isOpen !== $this->engine->isInterfaceOpen() && $this->comparison->isOn();
        $this->open->readAll($options->interface);
        $this->engine->openInterface($isOpen);
        if ($isAnother || $options->compare !== $before?->compare) {
            yield from $this->compare($options, $position, $playing);
        }
        if ($options->side !== $before?->side && $this->comparison->isOn()) {
            yield Frames::notice($this->comparison->notice($options->side));
        }
    }

    /** Whether the keys that are held change more than what sounds of their channel. */
    private function isSteered(ListeningOptions $options, ListeningOptions $before): bool
    {
        if ($options->played == $before->played) {
            return false;
        }
        $isSame = $options->played?->channel === $before->played?->channel;
        $isPressed = $options->played?->latest() !== null;
        $this->pressed = $isPressed ? $options->played : ($isSame ? $this->pressed : null);

        return ! $isSame || ($isPressed && $this->keysSteer);
    }

    /** @return Generator<int, string> */
    private function change(ListeningOptions $options): Generator
    {
        $stored = StoredSession::query()->with('head')->findOrFail($this->storedId);
        $busy = $this->units->notice();
        try {
            $session = $this->heardIn($this->book->open($stored), $options);
            $this->engine->change($session);
            $this->session = $session;
            if ($this->units->notice() != $busy) {
                yield Frames::notice($this->units->notice());
            }
            $this->told = [];
            $this->watched->keep($this->options?->watch, $session, $this->engine);
            if ($options->compare !== null) {
                $this->comparison->change($session, $options->compare);
            }
        } catch (EditRefused) {
            // What was compared is gone.
            $this->comparison->end();
        } catch (Refusal $refusal) {
            yield Frames::notice(['kind' => 'refused', 'message' => $refusal->line()]);
        }
        yield $this->layout();
    }

    /** @return Generator<int, string> */
    private function compare(ListeningOptions $options, int $position, bool $playing): Generator
    {
        $this->comparison->end();
        if ($options->compare === null) {
            return;
        }
        try {
            $this->comparison->begin($options->compare, $this->session, $this->compiler, $this->engines->processes($this->session->sampleRate), $this->engine->tap(), $options->beside, self::loop($options), $this->engine->blockFrames());
        } catch (Refusal $refusal) {
            yield Frames::notice(['kind' => 'refused', 'message' => $refusal->line()]);

            return;
        }
        $this->comparison->hold($options->played);
        if ($playing) {
            // Sound is running: a short run-in, so that it does not have to wait.
            $this->comparison->start($position, (int) (min(self::SHORT_RUN_IN, $this->preRoll) * $this->session->sampleRate));
        }
        yield Frames::notice($this->comparison->notice($options->side));
    }

    private static function loop(ListeningOptions $options): ?Loop
    {
        return $options->loopStart !== null && $options->loopEnd !== null ? new Loop($options->loopStart, $options->loopEnd) : null;
    }

    /** What is played of a session: with what is for the ears only, and live inputs in place of clips. */
    private function heardIn(Session $session, ListeningOptions $options): Session
    {
        $session = $options->sweep === null ? $session : $options->sweep->heardIn($session, $this->processors);
        $this->keysSteer = $options->played !== null && NoteSteering::isBy($session, $options->played->channel);
        $session = $this->pressed === null ? $session : NoteSteering::held($session, $this->pressed, new SoundControls($this->processors));
        $session = Monitoring::heardIn($session, $options->armed, $options->quick === null ? null : new QuickMonitoring($this->processors, $options->quick));

        return $this->units->heardIn($options->standing ? Monitoring::standing($session, $this->from, $options->played?->channel) : $session);
    }

    private function layout(): string
    {
        $this->laidOut = $this->engine->tapIds();

        return Frames::layout([
            'sampleRate' => $this->session->sampleRate,
            'length' => $this->session->length,
            'change' => $this->options?->change,
            'position' => $this->engine->position(),
            'taps' => $this->laidOut,
            'loads' => $this->engine->loadIds(),
            'tap' => $this->engine->tap()->id(),
            'processes' => $this->engine->processCount(),
            'buffer' => $this->open->buffer(),
        ]);
    }
}
