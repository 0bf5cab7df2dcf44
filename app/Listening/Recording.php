<?php

declare(strict_types=1);

namespace App\Listening;

use App\Media\DiskRoom;
use App\Takes\RecordWish;
use App\Takes\TakeJournal;
use App\Takes\TakeKeeper;
use Closure;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\Samples;
use Hafen\Engine\Engine;
use Hafen\Engine\LivePlayer;
use Hafen\Hardware\AudioInterface;
use Hafen\Printing\TakeWriter;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Routing\StereoStages;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveSource;

/** What a listener records while it plays, block by block; put on its track when it ends, however it ends. */
final class Recording
{
    /** Seconds between two looks at the room on the disk, and how much sound has to fit. */
    private const ROOM_EVERY = 5.0;

    /** Peaks that are told at once. */
    private const MOST_DRAWN = 12;

    private ?TakeWriter $writer = null;

    private ?RecordWish $wish = null;

    /** What is recorded where it is an input. */
    private ?LivePlayer $input = null;

    private ?TakeJournal $journal = null;

    /** @var ?Closure(int): TakeWriter a writer for what comes in so late, while that is not known */
    private ?Closure $opens = null;

    /** The inputs it is of, where it comes in at any. */
    private ?LateInputs $late = null;

    /** Position the next block should have, as the sources count. */
    private int $next = 0;

    private int $sinceRoom = 0;

    /** @var list<float> highest sample of each block since last told */
    private array $drawn = [];

    public function __construct(private readonly DiskRoom $room, private readonly ProcessorCatalogue $processors, private readonly TakeKeeper $keeper)
    {
    }

    /**
     * Begins to record from the next block on.
     *
     * @param  ?array{from: int, to: ?int}  $punch  what of it is kept, in samples of the session
     * @param  ?AudioInterface  $interface  that is open
     */
    public function begin(int $storedId, RecordWish $wish, ?array $punch, Session $session, Engine $engine, ?AudioInterface $interface): void
    {
        $tap = $wish->tap();
        $source = $session->channel($tap->channel ?? $wish->channel)?->source;
        $port = $source instanceof LiveSource ? $source->port : ($source instanceof ClipSource ? $source->input?->port : null);
        $this->input = $wish->tap === RecordWish::INPUT && $interface !== null && $port !== null ? new LivePlayer($interface, $port) : null;
        $channel = $session->channel($tap->channel ?? '');
        $isStereo = $this->input === null
            ? $channel === null || StereoStages::of($channel, $this->processors)->at($tap->stage ?? '')
            : count(InterfacePorts::numbers($port ?? '', 'in')) > 1;
        // Who plays to what is heard is as late as the main comes out, goes out at the interface, and comes in again.
        $comesIn = $interface !== null && ($this->input !== null || ($tap !== null && $source instanceof LiveSource));
        $played = $comesIn ? $engine->plan()->latency() + $interface->latency()->roundTrip() : 0;
        $this->journal = $journal = $this->keeper->begin($storedId, $wish);
        $this->wish = $wish;
        $this->sinceRoom = PHP_INT_MAX >> 1;
        $latency = $played + ($this->input === null ? $engine->plan()->latencyAt($tap ?? $engine->tap()) : 0);
        $format = new AudioFormat($session->sampleRate, $isStereo ? 2 : 1, SampleFormat::Float32);
        $this->opens = static fn (int $late): TakeWriter => new TakeWriter($journal->take(...), $format, $latency + $late, $punch['from'] ?? 0, $punch['to'] ?? null);
        $this->late = $comesIn ? new LateInputs($interface, InterfacePorts::numbers($port ?? '', 'in'), $session->sampleRate) : null;
        $this->openWriter(0);
    }

    /** @param  int  $frames  that passed since last asked */
    private function openWriter(int $frames): void
    {
        $late = $this->late === null ? 0 : $this->late->samples($frames);
        if ($late !== null && $this->opens !== null) {
            $this->writer = ($this->opens)($late);
            $this->opens = null;
        }
    }

    /**
     * Takes in the block the engine made last.
     *
     * @param  Block  $heard  what came out of it
     * @param  int  $source  position of its first sample, as the sources count
     *
     * @throws Refusal when the disk is full; what was recorded until then is kept
     */
    public function take(Engine $engine, Block $heard, int $source, int $sampleRate): void
    {
        if ($this->opens !== null) {
            // How late an input comes is found out where it is read.
            $this->input?->read($heard->frames());
            $this->openWriter($heard->frames());
        }
        if ($this->writer === null || $this->wish === null) {
            return;
        }
        $this->next = $source + $heard->frames();
        $this->sinceRoom += $heard->frames();
        if ($this->sinceRoom > self::ROOM_EVERY * $sampleRate) {
            $this->sinceRoom = 0;
            $this->room->need((int) (2 * self::ROOM_EVERY * $sampleRate * 8), 'The recording');
        }
        $block = match (true) {
            $this->input !== null => $this->input->read($heard->frames()),
            $this->wish->tap === RecordWish::HEARD => $heard,
            default => $engine->recorded()[$this->wish->tap] ?? null,
        };
        if ($block !== null) {
            $before = $this->writer->frames();
            $this->writer->take($block, $source);
            // A take that begins anew is drawn anew.
            $this->drawn = $this->writer->frames() < $before ? [] : $this->drawn;
            if ($this->writer->frames() !== $before) {
                $this->drawn[] = round(max(Samples::peak($block->left), Samples::peak($block->right())), 3);
            }
        }
    }

    /** Whether nothing of it is on its way any more. */
    public function isWhole(): bool
    {
        return $this->input === null || $this->late === null || $this->writer === null || $this->late->coming() <= 0;
    }

    /**
     * Takes in what was on its way when it ended, with the blocks that follow.
     *
     * @throws Refusal see {@see take()}
     */
    public function takeOn(Engine $engine, Block $heard, int $source, int $sampleRate): void
    {
        $this->take($engine, $heard, $source, $sampleRate);
        $this->late?->came($heard->frames());
    }

    /** @return array{channel: ?string, seconds: float, peak: ?float, drawn: list<float>, left: float} how long and loud it is, its peaks since last told, and the seconds the disk has room for */
    public function soFar(int $sampleRate): array
    {
        $drawn = array_map(static fn (array $part): float => max($part), array_chunk($this->drawn, max(1, (int) ceil(count($this->drawn) / self::MOST_DRAWN))));
        $this->drawn = [];

        return [
            'drawn' => $drawn,
            'left' => floor($this->room->free() / (8 * $sampleRate)),
            'channel' => $this->wish?->channel,
            'seconds' => ($this->writer?->frames() ?? 0) / $sampleRate,
            'peak' => Decibel::fromGain($this->writer?->peak() ?? 0.0),
        ];
    }

    /** Takes in all at once what was on its way when it ended, where no blocks follow. */
    public function takeRest(): void
    {
        if (! $this->isWhole() && $this->late !== null) {
            $this->writer?->take($this->late->rest(), $this->next);
        }
    }

    /**
     * Ends it.
     *
     * @param  bool  $isLeft  others put what was recorded on its track, so that nothing waits for that here
     */
    public function end(bool $isLeft): void
    {
        $writer = $this->writer;
        $journal = $this->journal;
        $this->late?->release();
        $this->writer = $this->wish = $this->journal = $this->opens = $this->late = null;
        if ($journal === null) {
            return;
        }
        $writer?->close();
        $journal->close();
        if ($isLeft) {
            $journal->release();
        } else {
            $this->keeper->place($journal);
        }
    }
}
