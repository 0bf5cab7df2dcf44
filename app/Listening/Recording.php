<?php

declare(strict_types=1);

namespace App\Listening;

use App\Media\DiskRoom;
use App\Media\MediaFolder;
use App\Takes\RecordWish;
use App\Takes\TakeDesk;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Engine\Engine;
use Hafen\Engine\Tap;
use Hafen\Printing\TakeWriter;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Routing\StereoStages;
use Hafen\Session\Session;

/** What a listener records while it plays, block by block; put on its track when it ends, however it ends. */
final class Recording
{
    /** Seconds between two looks at the room on the disk, and how much sound has to fit. */
    private const ROOM_EVERY = 5.0;

    private ?TakeWriter $writer = null;

    private ?RecordWish $wish = null;

    private string $id = '';

    private int $sinceRoom = 0;

    public function __construct(private readonly MediaFolder $folder, private readonly DiskRoom $room, private readonly ProcessorCatalogue $processors, private readonly TakeDesk $desk)
    {
    }

    public function isOn(): bool
    {
        return $this->writer !== null;
    }

    /** Begins to record from the next block on, or ends; what was recorded is put on its track then. Goes on where nothing else is wanted. */
    public function follow(?RecordWish $wish, int $storedId, Session $session, Engine $engine): void
    {
        if ($wish == $this->wish) {
            return;
        }
        $this->end($storedId);
        $engine->record(null);
        if ($wish === null) {
            return;
        }
        $tap = $wish->tap === RecordWish::HEARD ? null : Tap::fromString($wish->tap);
        $channel = $session->channel($tap->channel ?? '');
        $isStereo = $channel === null || StereoStages::of($channel, $this->processors)->at($tap->stage ?? '');
        $this->id = bin2hex(random_bytes(8));
        $this->wish = $wish;
        $this->sinceRoom = PHP_INT_MAX >> 1;
        $this->writer = new TakeWriter(
            fn (int $number): string => $this->folder->unfinishedPrint("take-{$this->id}-{$number}"),
            new AudioFormat($session->sampleRate, $isStereo ? 2 : 1, SampleFormat::Float32),
            $engine->plan()->latencyAt($tap ?? $engine->tap()),
        );
        $engine->record($tap);
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
        if ($this->writer === null || $this->wish === null) {
            return;
        }
        $this->sinceRoom += $heard->frames();
        if ($this->sinceRoom > self::ROOM_EVERY * $sampleRate) {
            $this->sinceRoom = 0;
            $this->room->need((int) (2 * self::ROOM_EVERY * $sampleRate * 8), 'The recording');
        }
        $block = $this->wish->tap === RecordWish::HEARD ? $heard : $engine->recorded();
        if ($block !== null) {
            $this->writer->take($block, $source);
        }
    }

    /** @return array<string, mixed> */
    public function notice(int $sampleRate): array
    {
        return [
            'kind' => 'recording',
            'channel' => $this->wish?->channel,
            'seconds' => ($this->writer?->frames() ?? 0) / $sampleRate,
            'peak' => Decibel::fromGain($this->writer?->peak() ?? 0.0),
        ];
    }

    /** Puts what was recorded on its track. */
    public function end(int $storedId): void
    {
        $writer = $this->writer;
        $wish = $this->wish;
        $this->writer = $this->wish = null;
        if ($writer !== null && $wish !== null) {
            $this->desk->place($storedId, $wish, $writer->close());
        }
    }
}
