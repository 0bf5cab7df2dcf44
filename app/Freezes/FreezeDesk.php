<?php

declare(strict_types=1);

namespace App\Freezes;

use App\Media\DiskRoom;
use App\Media\Importer;
use App\Media\MediaFolder;
use App\Models\Freeze;
use App\Models\FreezeBatch;
use App\Models\Media;
use App\Models\StoredSession;
use App\Sessions\DocumentDifference;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Work\Claim;
use Hafen\Audio\SampleFormat;
use Hafen\Document\ContentHashes;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Printing\FreezeOptions;
use Hafen\Printing\Freezer;
use Hafen\Printing\FreezeRefused;
use Hafen\Printing\RenderStopped;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Session\Session;

/** Has channels rendered by the queue, one job each, and once all are there, has them play their files: as one step. */
final readonly class FreezeDesk
{
    public function __construct(
        private SessionBook $book,
        private SessionCodec $codec,
        private ProcessorCatalogue $processors,
        private EngineFactory $engines,
        private MediaFolder $folder,
        private Importer $importer,
        private DiskRoom $room,
    ) {
    }

    /**
     * Begins to freeze channels as they are now. What was frozen before and is the same has its file already.
     *
     * @param  non-empty-list<string>  $channels  ids
     *
     * @throws FreezeRefused when one of them cannot be frozen
     * @throws \App\Media\DiskFull
     */
    public function request(StoredSession $stored, array $channels, FreezeOptions $options): FreezeBatch
    {
        $session = $this->book->open($stored);
        $hashes = ContentHashes::of($session, $this->processors);
        $freezes = [];
        $bytes = 0;
        foreach (array_unique($channels) as $id) {
            $channel = Freezer::check($session, $id);
            $content = hash('sha256', serialize([$hashes->ofFreeze($id, false), $options->tail, $options->format->value]));
            $known = $this->known($content);
            $bytes += $known === null ? self::bytes($session, $options) : 0;
            $freezes[] = [
                'channel' => $id,
                'name' => $channel->name,
                'content' => $content,
                'options' => ['tail' => $options->tail, 'format' => $options->format->value],
                'weight' => max(1, count($channel->allInserts())),
                'status' => $known === null ? 'waiting' : 'done',
                'progress' => $known === null ? 0.0 : 1.0,
                'media_id' => $known?->media_id,
                'hash' => $known?->hash,
            ];
        }
        $this->room->need($bytes, count($freezes) === 1 ? "The freeze of {$freezes[0]['name']}" : 'The freezes');
        $batch = FreezeBatch::query()->create(['session_id' => $stored->id, 'status' => 'running', 'document' => DocumentDifference::full($stored->document)]);
        // All of them are there before the first one can end.
        $rows = $batch->freezes()->createMany($freezes);
        foreach ($rows->where('status', 'waiting') as $row) {
            Claim::queue($row);
        }
        $this->goOn($batch);

        return $batch->refresh();
    }

    /** Renders one channel, and keeps the file in the library. */
    public function render(Claim $claim): void
    {
        $freeze = $claim->task;
        assert($freeze instanceof Freeze);
        $batch = $freeze->batch()->firstOrFail();
        $session = $this->codec->decode(DocumentDifference::inflated($batch->document));
        $options = self::options($freeze->options);
        $path = $this->folder->unfinishedFreeze((string) $freeze->id);
        try {
            $this->room->need(self::bytes($session, $options), $freeze->name());
            $result = (new Freezer($this->engines->compiler($session->sampleRate), $this->processors))->freeze($session, $freeze->channel, $path, $options, $claim->beat(...));
            $media = $this->importer->keepFrozen($path, "{$freeze->name} frozen", $freeze->name, $claim);
        } catch (RenderStopped) {
            $media = null;
        } finally {
            @unlink($path);
        }
        if ($media !== null && isset($result)) {
            $claim->finish(['status' => 'done', 'progress' => 1.0, 'media_id' => $media->id, 'hash' => $result->hash]);
        } elseif (! $claim->isLeaving()) {
            $claim->finish(['status' => 'stopped']);
        }
    }

    /** Has the channels of a batch play their files once all of them are there. */
    public function goOn(FreezeBatch $batch): void
    {
        $freezes = $batch->freezes()->orderBy('id')->get();
        if ($freezes->contains(static fn (Freeze $freeze): bool => $freeze->status !== 'done')) {
            if ($freezes->every(static fn (Freeze $freeze): bool => in_array($freeze->status, ['done', 'stopped', 'failed'], true))) {
                self::end($batch, 'stopped', 'Stopped. Nothing was frozen.');
            }

            return;
        }
        if (FreezeBatch::query()->whereKey($batch->id)->value('status') !== 'running') {
            return;
        }
        $edit = ['type' => 'freeze', 'channels' => $freezes->map(static fn (Freeze $freeze): array => [
            'channel' => $freeze->channel,
            'file' => $freeze->media_id,
            'hash' => $freeze->hash,
            'tail' => $freeze->options['tail'] ?? 'auto',
        ])->all()];
        try {
            // Made twice, by two workers at the end of their parts, it is one step: the second changes nothing.
            $this->book->edit($batch->session_id, StoredSession::query()->findOrFail($batch->session_id)->change, JsonNode::parse((string) json_encode($edit), 1 << 20));
            self::end($batch, 'done', null);
        } catch (Refusal $refused) {
            self::end($batch, 'failed', $refused->getMessage());
        }
    }

    public function stop(FreezeBatch $batch): void
    {
        $batch->freezes()->where('status', 'running')->update(['status' => 'stopping']);
        $batch->freezes()->where('status', 'waiting')->update(['status' => 'stopped']);
        self::end($batch, 'stopped', 'Stopped. Nothing was frozen.');
    }

    /** The batch of a session that is being worked on. */
    public function running(StoredSession $stored): ?FreezeBatch
    {
        return FreezeBatch::query()->where('session_id', $stored->id)->where('status', 'running')->latest()->first();
    }

    /** @return array<string, mixed> */
    public static function state(FreezeBatch $batch): array
    {
        $freezes = $batch->freezes()->orderBy('id')->get();
        $weight = max(1e-9, $freezes->sum(static fn (Freeze $freeze): float => $freeze->weight));
        $done = $freezes->sum(static fn (Freeze $freeze): float => $freeze->weight * ($freeze->status === 'done' ? 1.0 : $freeze->progress)) / $weight;
        $elapsed = $batch->created_at === null ? 0.0 : $batch->created_at->diffInMilliseconds(now()) / 1000.0;

        return [
            'id' => $batch->id,
            'status' => $batch->status,
            'message' => $batch->message,
            'channels' => $freezes->map(static fn (Freeze $freeze): array => ['channel' => $freeze->channel, 'name' => $freeze->name, 'status' => $freeze->status, 'progress' => $freeze->progress])->all(),
            'progress' => $done,
            'secondsLeft' => $done > 0.05 ? $elapsed * (1.0 - $done) / $done : null,
        ];
    }

    private static function end(FreezeBatch $batch, string $status, ?string $message): void
    {
        FreezeBatch::query()->whereKey($batch->id)->where('status', 'running')->update(['status' => $status, 'message' => $message]);
    }

    /** A freeze of the same content whose file is still there. */
    private function known(string $content): ?Freeze
    {
        foreach (Freeze::query()->where('content', $content)->where('status', 'done')->latest('id')->limit(5)->get() as $freeze) {
            $media = Media::query()->find($freeze->media_id);
            if ($media !== null && is_file($this->folder->original($media))) {
                return $freeze;
            }
        }

        return null;
    }

    /** @param  array<string, mixed>  $options  stored by {@see request()} */
    private static function options(array $options): FreezeOptions
    {
        /** @var array{tail: float|int|null, format: string} $options */
        return new FreezeOptions($options['tail'] === null ? null : (float) $options['tail'], SampleFormat::from($options['format']));
    }

    /** Bytes a freeze will have, about. */
    private static function bytes(Session $session, FreezeOptions $options): int
    {
        return 1024 + 2 * $options->format->bytes() * ($session->length + (int) (($options->tail ?? 5.0) * $session->sampleRate));
    }
}
