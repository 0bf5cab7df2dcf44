<?php

declare(strict_types=1);

namespace App\Takes;

use Hafen\Audio\SampleLoops;
use Hafen\Refusal;
use Illuminate\Support\Facades\Log;

/** Keeps what is recorded, whatever becomes of who records it: what was left behind is put on its track. */
final readonly class TakeKeeper
{
    /** Seconds until what could not be put on its track is tried again. */
    private const AGAIN_AFTER = 60;

    public function __construct(private string $folder, private TakeDesk $desk)
    {
    }

    public function begin(int $session, RecordWish $wish): TakeJournal
    {
        if (! is_dir($this->folder)) {
            @mkdir($this->folder, 0o775, true);
        }

        return TakeJournal::begin($this->folder, $session, $wish);
    }

    /** Puts what was recorded on its track. */
    public function place(TakeJournal $journal): void
    {
        $this->desk->place($journal->session, $journal->wish, $journal->takes());
        $journal->end();
    }

    /** @return list<string> ids of the channels whose recordings in a session are not on their tracks yet */
    public function waiting(int $session): array
    {
        $waiting = [];
        foreach (glob("{$this->folder}/*.json") ?: [] as $path) {
            $channel = TakeJournal::waitingIn($session, $path);
            if ($channel !== null) {
                $waiting[] = $channel;
            }
        }

        return $waiting;
    }

    /**
     * @param  int  $most  recordings that are placed at most, as a long one takes seconds
     * @return int recordings that were left, and are on their tracks now
     */
    public function look(int $most = PHP_INT_MAX): int
    {
        $placed = 0;
        foreach (glob("{$this->folder}/*.json") ?: [] as $path) {
            if ($placed === $most) {
                break;
            }
            // One that could not be placed has a time to come.
            $journal = (int) @filemtime($path) <= time() ? TakeJournal::left($path) : null;
            if ($journal === null) {
                continue;
            }
            // Console commands switch asynchronous signals on; sample loops must not be interrupted.
            SampleLoops::keepSignalsOut();
            try {
                $this->place($journal);
                ++$placed;
            } catch (Refusal $refusal) {
                // The disk may be full: what was recorded stays where it is.
                Log::warning("A recording waits to be put on its track: {$refusal->line()}");
                @touch($path, time() + self::AGAIN_AFTER);
                $journal->release();
            }
        }

        return $placed;
    }
}
