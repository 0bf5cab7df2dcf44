<?php

declare(strict_types=1);

namespace App\Listening;

use App\Models\Listening;
use App\Models\StoredSession;
use App\Plans\PlanDesk;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use Generator;
use Hafen\Audio\Block;
use Hafen\Audio\Crossfade;
use Hafen\Audio\Decibel;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Insert\SetInsertOn;
use Hafen\Edit\Insert\SetParameters;
use Hafen\Edit\Insert\SetRow;
use Hafen\Edit\Refusals\NoSuchInsert;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\LevelMatch;
use Hafen\Engine\Loop;
use Hafen\Engine\Tap;
use Hafen\Headroom\InsertWatch;
use Hafen\Metering\BandRange;
use Hafen\Metering\LoudnessMeter;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/**
 * Runs the engine for one listener and yields the frames of its stream, paced to the clock. Before each block it looks
 * whether the session or the listener's options changed, and goes on with them at once.
 */
final class ListeningStream
{
    /** Blocks gathered before they are sent: 32 ms at 48 kHz. */
    private const BLOCKS = 3;

    /** Frames of sound between two figures of loudness: about a third of a second. */
    private const LOUDNESS_EVERY = 10;

    /** Frames of sound between two looks at an insert by frequency: about a quarter of a second. */
    private const WATCH_EVERY = 8;

    /** Part of a gain by which it must move to be told again, about 0.1 dB. */
    private const AUDIBLE = 0.012;

    private int $storedId = 0;

    private Session $session;

    private Engine $engine;

    private Compiler $compiler;

    /** The other side of a compare. */
    private ?Engine $other = null;

    private ?LevelMatch $match = null;

    private ?ListeningOptions $options = null;

    private ?InsertWatch $watch = null;

    private float $side = 1.0;

    /** Gain of the level match that was told last. */
    private float $toldGain = 1.0;

    /** @var list<string> order of the taps in the layout sent last */
    private array $laidOut = [];

    /** @var array<string, true> channels whose faults were told */
    private array $told = [];

    public function __construct(
        private readonly SessionBook $book,
        private readonly EngineFactory $engines,
        private readonly PlanDesk $plans,
        private readonly ProcessorCatalogue $processors,
        private readonly SessionCodec $sessions,
        private readonly float $lead,
        private readonly float $preRoll,
    ) {
    }

    /**
     * @param  int  $from  sample to start at
     * @return Generator<int, string> frames, see {@see Frames}
     */
    public function frames(Listening $listening, int $from): Generator
    {
        yield Frames::HEADER;
        try {
            yield from $this->played($listening, $from);
        } catch (Refusal $refusal) {
            // Sound that cannot be trusted is not sent: a fault in the engine, a recording that is gone.
            yield Frames::notice(['kind' => 'refused', 'message' => $refusal->line()]);
            yield Frames::end();
        }
    }

    /**
     * @return Generator<int, string>
     *
     * @throws Refusal
     */
    private function played(Listening $listening, int $from): Generator
    {
        $reader = new ListeningOptionsReader($listening->id);
        $stored = StoredSession::query()->findOrFail($listening->session_id);
        $this->storedId = $stored->id;
        $this->session = $this->book->open($stored);
        $rate = $this->session->sampleRate;
        $this->compiler = $this->engines->compiler($rate);
        $options = $reader->read();
        $this->session = $options === null ? $this->session : $this->swept($this->session, $options);
        $this->engine = new Engine($this->compiler, $this->session);
        $this->options = new ListeningOptions($stored->change, null, null, null, null, 1, false, $options?->sweep);
        if ($options !== null) {
            yield from $this->follow($options, $from, false);
        }
        $this->engine->start($from, (int) ($this->preRoll * $rate));
        $this->other?->start($from, (int) ($this->preRoll * $rate));
        yield $this->layout();

        $pace = new Pace(min(0.4, $this->lead));
        $loudness = new LoudnessMeter($rate);
        $sent = 0;
        while (! connection_aborted()) {
            $blocks = [];
            $position = $this->engine->position();
            $expected = $position;
            $busy = 0;
            do {
                $options = $reader->read();
                if ($options === null || $options->stopped) {
                    yield Frames::end();

                    return;
                }
                $start = hrtime(true);
                yield from $this->follow($options, $this->engine->position(), true);
                $blocks[] = $block = $this->block();
                $busy += hrtime(true) - $start;
                $expected += $block->frames();
            } while (count($blocks) < self::BLOCKS && $this->engine->position() === $expected);

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
            if ($this->watch !== null && $sent % self::WATCH_EVERY === 0) {
                yield Frames::notice(self::watchNotice($this->watch));
            }
            yield Frames::meters($position, $busy / 1e9 / $seconds, $this->engine->readings(), $this->engine->loads());
            if ($this->match !== null && abs($this->match->gain() - $this->toldGain) > self::AUDIBLE * $this->toldGain) {
                yield $this->compareNotice();
            }
            foreach ($this->engine->faults() as $fault) {
                if (! isset($this->told[$fault->channel])) {
                    $this->told[$fault->channel] = true;
                    yield Frames::notice(['kind' => 'fault', 'channel' => $fault->channel, 'position' => $fault->position]);
                }
            }
            if ($options->loopEnd === null && $this->engine->position() >= $this->session->length) {
                yield Frames::end();

                return;
            }
            $pace->sent($seconds);
        }
    }

    private function block(): Block
    {
        $one = $this->engine->next();
        if ($this->watch !== null) {
            $watched = array_values($this->engine->watched());
            if (count($watched) === 2) {
                $this->watch->look(...$watched);
            }
        }
        if ($this->other === null || $this->match === null) {
            return $one;
        }
        $two = $this->other->next();
        $this->match->apply($one, $two);
        // Over one block from side to side, so that switching is not heard itself.
        $target = $this->options?->side === 2 ? 0.0 : 1.0;
        Crossfade::mix($one, $two, $this->side, $target);
        $this->side = $target;

        return $one;
    }

    /** @return Generator<int, string> frames that tell of it */
    private function follow(ListeningOptions $options, int $position, bool $playing): Generator
    {
        $before = $this->options;
        $this->options = $options;
        if ($before === null || $options->change !== $before->change || $options->sweep != $before->sweep) {
            yield from $this->change($options);
        }
        if ($options->tap !== $before?->tap) {
            $tap = $options->tap === null ? new Tap($this->session->main()->id) : Tap::fromString($options->tap);
            if ($tap === null || ! $this->engine->listenAt($tap)) {
                yield Frames::notice(['kind' => 'tap-gone', 'tap' => $options->tap]);
            } else {
                $this->other?->listenAt($tap);
            }
        }
        if ($options->loopStart !== $before?->loopStart || $options->loopEnd !== $before?->loopEnd) {
            $loop = $options->loopStart !== null && $options->loopEnd !== null ? new Loop($options->loopStart, $options->loopEnd) : null;
            $this->engine->loopOver($loop);
            $this->other?->loopOver($loop);
        }
        if ($options->watch !== $before?->watch) {
            $this->watchAt($options->watch);
        }
        if ($options->compare !== $before?->compare) {
            yield from $this->compare($options, $position, $playing);
        }
        if ($options->side !== $before?->side && $this->match !== null) {
            yield $this->compareNotice();
        }
    }

    /** @return Generator<int, string> */
    private function change(ListeningOptions $options): Generator
    {
        $stored = StoredSession::query()->with('head')->findOrFail($this->storedId);
        try {
            $session = $this->swept($this->book->open($stored), $options);
            $this->engine->change($session);
            $this->session = $session;
            $this->told = [];
            $this->keepWatching($session);
            if ($this->other !== null && $options->compare !== null) {
                $this->other->change($this->otherSide($session, $options->compare));
            }
        } catch (EditRefused) {
            // What was compared is gone.
            $this->other = $this->match = null;
        } catch (Refusal $refusal) {
            yield Frames::notice(['kind' => 'refused', 'message' => $refusal->line()]);
        }
        yield $this->layout();
    }

    /** @return Generator<int, string> */
    private function compare(ListeningOptions $options, int $position, bool $playing): Generator
    {
        $this->other = $this->match = null;
        $this->side = 1.0;
        if ($options->compare === null) {
            return;
        }
        try {
            $this->other = new Engine($this->compiler, $this->otherSide($this->session, $options->compare), metered: false);
        } catch (Refusal $refusal) {
            yield Frames::notice(['kind' => 'refused', 'message' => $refusal->line()]);

            return;
        }
        $this->match = new LevelMatch($this->session->sampleRate);
        $this->other->listenAt($this->engine->tap());
        $this->other->loopOver($options->loopEnd === null || $options->loopStart === null ? null : new Loop($options->loopStart, $options->loopEnd));
        if ($playing) {
            // Sound is running: a short run-in, so that it does not have to wait.
            $this->other->start($position, (int) (min(0.4, $this->preRoll) * $this->session->sampleRate));
        }
        yield $this->compareNotice();
    }

    /** Watches an insert from now on; none when it is not there. */
    private function watchAt(?string $insert): void
    {
        $this->watch = null;
        $this->engine->watch();
        if ($insert !== null && $this->session->locate($insert)?->insert instanceof ProcessorInsert) {
            $this->watch = new InsertWatch($this->session, $insert, $this->processors);
            $this->engine->watch(...$this->watch->taps());
        }
    }

    private function keepWatching(Session $session): void
    {
        if ($this->watch === null || ! $session->locate($this->watch->insert)?->insert instanceof ProcessorInsert) {
            $this->watchAt($this->options?->watch);

            return;
        }
        $this->watch->follow($session);
        $this->engine->watch(...$this->watch->taps());
    }

    /** @return array<string, mixed> */
    private static function watchNotice(InsertWatch $watch): array
    {
        $shown = static fn (BandRange $range): array => array_map(
            static fn (?float $level): ?float => $level === null ? null : round($level, 1),
            [$range->now, $range->quiet, $range->loud],
        );

        return [
            'kind' => 'watch',
            'insert' => $watch->insert,
            'frequencies' => array_map(static fn (float $frequency): float => round($frequency, 1), $watch->frequencies()),
            'before' => array_map($shown, $watch->before()),
            'after' => array_map($shown, $watch->after()),
            'bands' => (object) array_map($shown, $watch->bands()),
        ];
    }

    private function swept(Session $session, ListeningOptions $options): Session
    {
        return $options->sweep === null ? $session : $options->sweep->heardIn($session, $this->processors);
    }

    /** @param  array{insert?: string, parameters?: array<string, mixed>, row?: string, plan?: int}  $compare */
    private function otherSide(Session $session, array $compare): Session
    {
        if (isset($compare['plan'])) {
            return $this->plans->made($session, $compare['plan']);
        }
        if (isset($compare['insert'], $compare['parameters'])) {
            // The same insert with another setting.
            $insert = $session->locate($compare['insert'])?->insert;
            $processor = $insert instanceof ProcessorInsert ? $insert->processor : throw NoSuchInsert::withId($compare['insert']);

            return (new SetParameters($compare['insert'], $this->sessions->parameters(new JsonNode((object) $compare['parameters']), $processor)))->apply($session);
        }
        if (isset($compare['insert'])) {
            return (new SetInsertOn([$compare['insert']], false))->apply($session);
        }

        return (new SetRow([$compare['row'] ?? ''], false))->apply($session);
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
        ]);
    }

    private function compareNotice(): string
    {
        $this->toldGain = $this->match?->gain() ?? 1.0;

        return Frames::notice([
            'kind' => 'compare',
            'side' => $this->options?->side,
            'gain' => Decibel::fromGain($this->toldGain),
        ]);
    }
}
