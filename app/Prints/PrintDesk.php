<?php

declare(strict_types=1);

namespace App\Prints;

use App\Media\DiskRoom;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\PrintBatch;
use App\Models\PrintPart;
use App\Models\StoredSession;
use App\Sessions\DocumentDifference;
use App\Sessions\SessionBook;
use App\Work\Claim;
use Hafen\Document\ContentHashes;
use Hafen\Document\JsonNode;
use Hafen\Printing\FreezeOptions;
use Hafen\Printing\Freezer;
use Hafen\Printing\FreezeRefused;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Session\Channel\Channel;

/** Has channels frozen or printed by the queue, one job each, and once all files are there, puts them into the session as one step. */
final readonly class PrintDesk
{
    public function __construct(
        private SessionBook $book,
        private ProcessorCatalogue $processors,
        private MediaFolder $folder,
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
    public function freeze(StoredSession $stored, array $channels, FreezeOptions $options): PrintBatch
    {
        $session = $this->book->open($stored);
        $hashes = ContentHashes::of($session, $this->processors);
        $parts = [];
        $bytes = 0;
        foreach (array_unique($channels) as $id) {
            $channel = Freezer::check($session, $id);
            $content = hash('sha256', serialize([$hashes->ofFreeze($id, false), $options->tail, $options->format->value]));
            $known = $this->known($content);
            $bytes += $known === null ? PartRenderer::bytes($session, $options->format, $options->tail) : 0;
            $parts[] = [
                ...self::part($channel, ['tail' => $options->tail, 'format' => $options->format->value]),
                'content' => $content,
                ...($known === null ? [] : ['status' => 'done', 'progress' => 1.0, 'media_id' => $known->media_id, 'hash' => $known->hash]),
            ];
        }
        $this->room->need($bytes, count($parts) === 1 ? "The freeze of {$parts[0]['name']}" : 'The freezes');

        return $this->begin($stored, 'freeze', [], $parts);
    }

    /**
     * Begins to print channels as they are now.
     *
     * @throws PrintRefused when one of them cannot be printed so
     * @throws \App\Media\DiskFull
     */
    public function print(StoredSession $stored, PrintWish $wish): PrintBatch
    {
        $session = $this->book->open($stored);
        $checked = array_map(static fn (string $id): Channel => $wish->check($session, $id), $wish->channels);
        $names = $wish->names($session);
        $common = ['tail' => $wish->options->tail, 'format' => $wish->options->format->value, 'from' => $wish->options->from, 'to' => $wish->options->to, 'tap' => $wish->tap];
        $parts = [];
        foreach ($checked as $channel) {
            if (isset($names[$channel->id])) {
                $parts[] = [...self::part($channel, [...$common, 'name' => $names[$channel->id]]), 'content' => ''];
            }
        }
        if ($wish->together && count($checked) > 1) {
            // What is treated afterwards is all that was selected, also what is heard through another.
            $with = array_map(static fn (Channel $channel): string => $channel->id, $checked);
            $name = $wish->nameOfAll($session);
            $parts = [[
                ...$parts[0],
                'channel' => $with[0],
                'name' => count($with).' channels',
                'options' => [...$common, 'name' => $name, 'with' => array_slice($with, 1), 'printed' => $wish->printed($session)],
                'weight' => array_sum(array_column($parts, 'weight')),
            ]];
        }
        $this->room->need(count($parts) * PartRenderer::bytes($session, $wish->options->format, $wish->options->tail), count($parts) === 1 ? "The print of {$parts[0]['name']}" : 'The prints');

        if ($wish->toFiles) {
            // In one run, so that all are of one length.
            $options = $parts[0]['options'];
            $parts = [[
                ...$parts[0],
                'name' => count($parts) === 1 ? $parts[0]['name'] : count($parts).' channels',
                'options' => [...$options, 'names' => $names, 'withReturns' => $wish->withReturns],
                'weight' => array_sum(array_column($parts, 'weight')) * ($wish->withReturns ? count($parts) : 1),
            ]];
        }

        return $this->begin($stored, $wish->toFiles ? 'files' : 'print', ['inPlace' => $wish->inPlace, 'after' => $wish->after->value, 'revision' => $stored->head_id], $parts);
    }

    /** Puts the files of a batch into the session once all of them are there. */
    public function goOn(PrintBatch $batch): void
    {
        $parts = $batch->parts()->orderBy('id')->get();
        if ($parts->contains(static fn (PrintPart $part): bool => $part->status !== 'done')) {
            if ($parts->every(static fn (PrintPart $part): bool => in_array($part->status, ['done', 'stopped', 'failed'], true))) {
                self::end($batch, 'stopped', self::stoppedText($batch));
            }

            return;
        }
        // Of two workers that end their parts at once one puts them in.
        if (PrintBatch::query()->whereKey($batch->id)->where('status', 'running')->update(['status' => 'placing']) === 0) {
            return;
        }
        if ($batch->kind === 'files') {
            self::end($batch, 'done', null);

            return;
        }
        try {
            $stored = StoredSession::query()->findOrFail($batch->session_id);
            $word = "{$batch->kind}-{$batch->id}";
            // One that was put in by a worker that was killed right after is not put in twice.
            if (! $stored->revisions()->where('gesture', $word)->exists()) {
                $edit = (string) json_encode(BatchEdit::of($batch, $parts), JSON_THROW_ON_ERROR);
                $this->book->edit($stored->id, $stored->change, JsonNode::parse($edit, 4 << 20), $word);
            }
            self::end($batch, 'done', null);
        } catch (Refusal $refused) {
            self::end($batch, 'failed', $refused->getMessage());
        }
    }

    public function stop(PrintBatch $batch): void
    {
        $batch->parts()->where('status', 'running')->update(['status' => 'stopping']);
        $batch->parts()->where('status', 'waiting')->update(['status' => 'stopped']);
        self::end($batch, 'stopped', self::stoppedText($batch));
    }

    /** The batch of a session that is being worked on. */
    public function running(StoredSession $stored): ?PrintBatch
    {
        return PrintBatch::query()->where('session_id', $stored->id)->whereIn('status', ['running', 'placing'])->latest()->first();
    }

    /** @return array<string, mixed> */
    public static function state(PrintBatch $batch): array
    {
        $parts = $batch->parts()->orderBy('id')->get();
        $weight = max(1e-9, $parts->sum(static fn (PrintPart $part): float => $part->weight));
        $done = $parts->sum(static fn (PrintPart $part): float => $part->weight * ($part->status === 'done' ? 1.0 : $part->progress)) / $weight;
        $elapsed = $batch->created_at === null ? 0.0 : $batch->created_at->diffInMilliseconds(now()) / 1000.0;

        return [
            'id' => $batch->id,
            'kind' => $batch->kind,
            'status' => $batch->status === 'placing' ? 'running' : $batch->status,
            'message' => $batch->message,
            'channels' => $parts->map(static fn (PrintPart $part): array => [
                'channel' => $part->channel, 'name' => $part->name, 'status' => $part->status, 'progress' => $part->progress,
                'clipped' => $part->result['clipped'] ?? 0, 'peak' => $part->result['peak'] ?? null,
            ])->all(),
            'progress' => $done,
            'secondsLeft' => $done > 0.05 ? $elapsed * (1.0 - $done) / $done : null,
        ];
    }

    /**
     * @param  array<string, mixed>  $options
     * @param  list<array<string, mixed>>  $parts
     */
    private function begin(StoredSession $stored, string $kind, array $options, array $parts): PrintBatch
    {
        $batch = PrintBatch::query()->create(['session_id' => $stored->id, 'kind' => $kind, 'options' => $options, 'status' => 'running', 'document' => DocumentDifference::full($stored->document)]);
        // All of them are there before the first one can end.
        foreach ($batch->parts()->createMany($parts)->where('status', 'waiting') as $part) {
            Claim::queue($part);
        }
        $this->goOn($batch);

        return $batch->refresh();
    }

    /**
     * @param  array<string, mixed>  $options
     * @return array{channel: string, name: string, options: array<string, mixed>, weight: int, status: string, progress: float}
     */
    private static function part(Channel $channel, array $options): array
    {
        return ['channel' => $channel->id, 'name' => $channel->name, 'options' => $options, 'weight' => max(1, count($channel->allInserts())), 'status' => 'waiting', 'progress' => 0.0];
    }

    private static function stoppedText(PrintBatch $batch): string
    {
        return 'Stopped. Nothing was '.($batch->kind === 'freeze' ? 'frozen.' : 'printed.');
    }

    private static function end(PrintBatch $batch, string $status, ?string $message): void
    {
        PrintBatch::query()->whereKey($batch->id)->whereIn('status', ['running', 'placing'])->update(['status' => $status, 'message' => $message]);
    }

    /** A freeze of the same content whose file is still there. */
    private function known(string $content): ?PrintPart
    {
        foreach (PrintPart::query()->where('content', $content)->where('status', 'done')->latest('id')->limit(5)->get() as $part) {
            $media = Media::query()->find($part->media_id);
            if ($media !== null && is_file($this->folder->original($media))) {
                return $part;
            }
        }

        return null;
    }
}
