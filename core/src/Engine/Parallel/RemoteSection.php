<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Audio\Block;
use Hafen\Audio\SampleDecoder;
use Hafen\Engine\Fault;
use Hafen\Engine\Parallel\Message\ChangeSection;
use Hafen\Engine\Parallel\Message\CloseChannels;
use Hafen\Engine\Parallel\Message\HoldKeys;
use Hafen\Engine\Parallel\Message\ListenAt;
use Hafen\Engine\Parallel\Message\MeterOnly;
use Hafen\Engine\Parallel\Message\OpenSection;
use Hafen\Engine\Parallel\Message\ResetSection;
use Hafen\Engine\Parallel\Message\SectionFacts;
use Hafen\Engine\Parallel\Message\WorkBlock;
use Hafen\Engine\Parallel\Message\WorkedBlock;
use Hafen\Engine\Piece;
use Hafen\Engine\PlanChange;
use Hafen\Engine\StageTaps;
use Hafen\Engine\Tap;
use Hafen\Metering\TapReading;
use Hafen\Note\HeldKeys;
use Hafen\Session\Session;

/** The channels of a session that another process works, seen from here. */
final class RemoteSection
{
    /** Blocks between two readings of its meters. */
    private const READ_EVERY = 3;

    /** Blocks the shared memory has room for beside those that are needed, so that it need not be made anew with each tap. */
    private const ROOM = 8;

    private EngineProcess $process;

    /** @var array<string, RemoteStrip> by channel id */
    private array $strips = [];

    private SectionFacts $facts;

    private ?SharedBlocks $shared = null;

    /** Whether the other process has the shared memory as well. */
    private bool $isAttached = false;

    /** @var list<Output> */
    private array $outputs = [];

    /** @var list<RemoteSum> */
    private array $sums = [];

    /** @var array<string, int> number of each output, by id */
    private array $numbers = [];

    /** Half of the shared memory that is written next. */
    private int $half = 0;

    /** The block that was asked for and not yet taken. */
    private ?WorkBlock $begun = null;

    /** @var array{string, int, int} forms of the outputs, half, and frames of the block that is there */
    private array $there = ['', 0, 0];

    /** The part of it that is wanted. */
    private ?Piece $piece = null;

    /** @var array<int, ?Block> outputs of it that were read whole, to be given piece by piece; by number */
    private array $whole = [];

    private bool $isClosing = false;

    /** Whether it was given a session it has not answered yet. */
    private bool $isCompiling = false;

    private int $blocks = 0;

    /** @var list<Fault> */
    private array $faults = [];

    /** @var array<string, TapReading> */
    private array $readings = [];

    /** Whether these were given out. */
    private bool $isRead = true;

    /** @var array<string, float> */
    private array $loads = [];

    /**
     * @param  string  $php  path of PHP
     * @param  int  $blockSize  frames of the longest block
     *
     * @throws ProcessGone when there cannot be another process
     */
    public function __construct(private readonly string $php, private Part $part, private readonly int $blockSize)
    {
        foreach ($part->channels as $id) {
            $this->strips[$id] = new RemoteStrip($id, $this);
        }
        $this->summed();
        $this->facts = new SectionFacts([], [], [], []);
        $this->process = new EngineProcess($php);
    }

    public function processId(): int
    {
        return $this->process->id();
    }

    /** @return array<string, RemoteStrip> by channel id */
    public function strips(): array
    {
        return $this->strips;
    }

    /** @return list<RemoteSum> */
    public function sums(): array
    {
        return $this->sums;
    }

    public function part(): Part
    {
        return $this->part;
    }

    /** @throws ProcessGone */
    public function open(OpenSection $open): void
    {
        $this->isCompiling = true;
        $this->process->send($open);
    }

    public function end(): void
    {
        $this->process->end();
        $this->shared = null;
    }

    /** Another process in place of the one that ended, which knows nothing yet. */
    public function replace(): void
    {
        $this->process = new EngineProcess($this->php);
        $this->shared = $this->begun = null;
        $this->isClosing = false;
    }

    /**
     * Waits for what the other process says of its strips.
     *
     * @throws ProcessGone
     * @throws SectionRefused
     */
    public function compiled(): void
    {
        if (! $this->isCompiling) {
            return;
        }
        $this->facts = $this->process->receive(SectionFacts::class);
        $this->isCompiling = false;
        foreach ($this->facts->strips as $id => $facts) {
            ($this->strips[$id] ?? null)?->describe($facts);
        }
    }

    /** @throws ProcessGone */
    public function reset(): void
    {
        $this->readings = $this->loads = [];
        $this->isRead = true;
        $this->process->send(new ResetSection);
    }

    /** @throws ProcessGone */
    public function close(PlanChange $change): void
    {
        // So that the change is not taken before the other process has said that it has faded out.
        $this->isClosing = true;
        $this->process->send(new CloseChannels($change));
    }

    public function isClosing(): bool
    {
        return $this->isClosing;
    }

    /**
     * @param  Part  $part  what stays there; never more than before
     *
     * @throws ProcessGone
     */
    public function change(Session $session, Part $part): void
    {
        $this->part = $part;
        $this->strips = array_intersect_key($this->strips, array_flip($part->channels));
        $this->summed();
        foreach ($this->strips as $strip) {
            $strip->keepNothing();
        }
        $this->isClosing = false;
        $this->isCompiling = true;
        $this->process->send(new ChangeSection($session, $part));
    }

    /**
     * Asks for what strips of this process take, and for what somebody listens to.
     *
     * @param  list<Tap>  $taps
     * @param  array<array-key, true>  $asleep  by channel id
     * @param  array<array-key, true>  $reading  channels of this process that take in what feeds them, by id
     *
     * @throws ProcessGone
     */
    public function listen(array $taps, array $asleep, array $reading): void
    {
        $outputs = [];
        foreach (array_diff_key($this->strips, $asleep) as $id => $strip) {
            foreach ($strip->kept() as $stage) {
                $outputs[] = new Output(OutputKind::Passing, (string) $id, $stage);
            }
        }
        foreach ($this->sums as $sum) {
            if (isset($reading[$sum->key->bus])) {
                $outputs[] = new Output(OutputKind::Sum, $sum->key->bus, $sum->key->banks());
            }
        }
        foreach ($taps as $tap) {
            if (isset($this->strips[$tap->channel])) {
                $outputs[] = new Output(OutputKind::Tap, $tap->channel, $tap->stage);
            }
        }
        $this->outputs = $outputs;
        $this->numbers = array_flip(array_map(static fn (Output $output): string => $output->id(), $outputs));
        if ($this->shared?->holds(count($this->outputs)) !== true) {
            $this->shared = SharedBlocks::create(count($this->outputs) + self::ROOM, $this->blockSize);
            $this->isAttached = false;
        }
        $this->process->send(new ListenAt($this->outputs, $asleep, $this->shared->key, $this->shared->blocks, $this->shared->frames));
    }

    /**
     * @param  ?array<array-key, true>  $channels  those whose every tap is read, by id; null is all of them
     *
     * @throws ProcessGone
     */
    public function meterOnly(?array $channels): void
    {
        $this->process->send(new MeterOnly($channels === null ? null : array_intersect_key($channels, $this->strips)));
    }

    /** @throws ProcessGone */
    public function hold(?HeldKeys $held): void
    {
        $this->process->send(new HoldKeys($held));
    }

    /**
     * Lets the other process begin a block.
     *
     * @param  int  $position  of its first sample, as the sources count
     *
     * @throws ProcessGone
     */
    public function begin(int $position, int $frames): void
    {
        $this->begun = new WorkBlock($position, $frames, $this->half, $this->blocks++ % self::READ_EVERY === 0);
        $this->half = 1 - $this->half;
        $this->process->send($this->begun);
    }

    public function hasBegun(): bool
    {
        return $this->begun !== null;
    }

    /**
     * Waits for the block that was begun.
     *
     * @throws ProcessGone
     * @throws SectionRefused
     */
    public function finish(): void
    {
        if ($this->begun === null) {
            return;
        }
        $worked = $this->process->receive(WorkedBlock::class);
        $this->there = [$worked->forms, $this->begun->half, $this->begun->frames];
        $this->begun = null;
        $this->whole = [];
        if (! $this->isAttached) {
            $this->shared?->forgetKey();
            $this->isAttached = true;
        }
        $this->isClosing = $worked->isClosing;
        $this->faults = [...$this->faults, ...$worked->faults];
        if ($worked->readings !== null && $worked->loads !== null) {
            $this->takeIn($this->unpackedReadings($worked->readings));
            $loads = SampleDecoder::float64($worked->loads);
            $this->loads = count($loads) === count($this->facts->loads) ? array_combine($this->facts->loads, $loads) : [];
        }
    }

    /**
     * Gives a piece of the block that is there.
     *
     * @param  array<array-key, StageTaps>  $taps  by channel id; filled with what somebody listens to
     */
    public function passPiece(Piece $piece, array $taps): void
    {
        $this->piece = $piece;
        foreach ($this->strips as $strip) {
            $strip->goOn();
        }
        foreach ($this->outputs as $number => $output) {
            $block = $output->kind === OutputKind::Tap ? $this->output($number) : null;
            if ($block !== null) {
                ($taps[$output->channel] ?? null)?->pass($output->of, $block);
            }
        }
    }

    /** What passes in the block that is there, where others take it; null where there is nothing. */
    public function passing(string $channel, string $stage): ?Block
    {
        return $this->outputNamed(new Output(OutputKind::Passing, $channel, $stage));
    }

    /** A sum of the block that is there; null where there is none. */
    public function sum(SumKey $key): ?Block
    {
        return $this->outputNamed(new Output(OutputKind::Sum, $key->bus, $key->banks()));
    }

    /** @return list<Fault> since last asked */
    public function faults(): array
    {
        $faults = $this->faults;
        $this->faults = [];

        return $faults;
    }

    /** @return array<string, string> by channel id */
    public function unplayable(): array
    {
        return $this->facts->unplayable;
    }

    /** @return list<string> */
    public function tapIds(): array
    {
        return $this->facts->taps;
    }

    /** @return list<string> */
    public function loadIds(): array
    {
        return $this->facts->loads;
    }

    /**
     * What came since last asked, by tap id, in the order of {@see tapIds()}. Where nothing came the levels stay, and nothing is counted
     * again.
     *
     * @return array<string, TapReading> what is new is not there yet
     */
    public function readings(): array
    {
        $readings = [];
        foreach ($this->facts->taps as $tap) {
            $reading = $this->readings[$tap] ?? null;
            if ($reading !== null) {
                $readings[$tap] = $this->isRead && $reading->overs > 0 ? $reading->withoutOvers() : $reading;
            }
        }
        $this->isRead = true;

        return $readings;
    }

    /** @return array<string, float> of the last few blocks, in the order of {@see loadIds()}; of what is new nothing yet */
    public function loads(): array
    {
        $loads = [];
        foreach ($this->facts->loads as $id) {
            $loads[$id] = $this->loads[$id] ?? 0.0;
        }

        return $loads;
    }

    /** @param  array<string, TapReading>  $readings */
    private function takeIn(array $readings): void
    {
        foreach ($this->isRead ? [] : $this->readings as $tap => $earlier) {
            if (isset($readings[$tap])) {
                $readings[$tap] = $earlier->and($readings[$tap]);
            }
        }
        $this->readings = $readings;
        $this->isRead = false;
    }

    private function summed(): void
    {
        $this->sums = array_map(fn (SumKey $key): RemoteSum => new RemoteSum($key, $this), $this->part->sums);
    }

    private function outputNamed(Output $output): ?Block
    {
        $number = $this->numbers[$output->id()] ?? null;

        return $number === null ? null : $this->output($number);
    }

    private function output(int $number): ?Block
    {
        if ($this->piece === null || $this->piece->isWhole()) {
            return $this->read($number);
        }
        if (! array_key_exists($number, $this->whole)) {
            $this->whole[$number] = $this->read($number);
        }

        return $this->whole[$number]?->part($this->piece->offset, $this->piece->frames);
    }

    private function read(int $number): ?Block
    {
        [$forms, $half, $frames] = $this->there;

        return $this->shared?->read($half, $number, $forms[$number] ?? "\0", $frames);
    }

    /** @return array<string, TapReading> */
    private function unpackedReadings(string $bytes): array
    {
        $numbers = SampleDecoder::float64($bytes);
        $readings = [];
        foreach ($this->facts->taps as $i => $tap) {
            $at = 4 * $i;
            if (isset($numbers[$at + 3]) && ! is_nan($numbers[$at])) {
                $readings[$tap] = new TapReading($numbers[$at], $numbers[$at + 1], (int) $numbers[$at + 2], $numbers[$at + 3]);
            }
        }

        return $readings;
    }
}
