<?php

declare(strict_types=1);

namespace App\Takes;

use App\Media\Importer;
use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Audio\WavReader;
use Hafen\Document\JsonNode;
use Hafen\Hardware\ClippedSamples;
use Hafen\Printing\Take;
use Hafen\Refusal;
use Illuminate\Support\Facades\Log;

/** Puts takes on their track; where that cannot be done they stay in the library. */
final readonly class TakeDesk
{
    /** Takes that are kept of one recording, the newest. */
    private const MOST = 32;

    public function __construct(private SessionBook $book, private Importer $importer)
    {
    }

    /** @param  list<Take>  $takes  in the order they were played */
    public function place(int $storedId, RecordWish $wish, array $takes): void
    {
        $stored = StoredSession::query()->find($storedId);
        if ($stored === null) {
            array_walk($takes, static fn (Take $take) => @unlink($take->path));

            return;
        }
        $session = $this->book->open($stored);
        $name = $session->channel($wish->channel)->name ?? 'Recording';
        $files = [];
        foreach ($takes as $number => $take) {
            if ($number < count($takes) - self::MOST) {
                @unlink($take->path);

                continue;
            }
            $clipped = $wish->tap === RecordWish::INPUT ? ClippedSamples::in(WavReader::open($take->path)) : 0;
            $media = $this->importer->keepRendered($take->path, "{$name} take ".($number + 1), null, static fn (): bool => true);
            @unlink($take->path);
            if ($media !== null) {
                $files[] = ['file' => $media->id, 'length' => $take->frames, 'width' => $media->channels === 1 ? 'mono' : 'stereo', 'start' => $take->start, 'clipped' => $clipped];
            }
        }
        $tap = $wish->tap();
        // What came in was printed from nothing.
        $from = $wish->tap === RecordWish::INPUT ? [] : ['from' => ['revision' => $stored->head_id, 'channel' => $tap->channel ?? $session->main()->id, 'tap' => $tap->stage ?? 'main']];
        try {
            $edit = ['type' => 'put-takes', 'channel' => $wish->channel, 'takes' => $files, ...$from];
            $files === [] || $this->book->edit($storedId, $stored->change, JsonNode::parse((string) json_encode($edit), 1 << 20));
        } catch (Refusal $refused) {
            // The track is gone or frozen by now: the takes are in the library, under its name.
            Log::warning("A recording stays in the library: {$refused->line()}");
            $stored->update(['notice' => "A take could not be put on its track: {$refused->getMessage()} It is kept among the recordings, as \"{$name} take 1\"."]);
        }
    }
}
