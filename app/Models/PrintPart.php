<?php

declare(strict_types=1);

namespace App\Models;

use App\Work\Task;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * One channel of a batch that is rendered to a file. Status: waiting, running, stopping, done, stopped, failed.
 *
 * @property int $id
 * @property string $batch_id
 * @property string $channel
 * @property string $name of the channel
 * @property string $content what has the same has the same file; empty where that does not matter
 * @property array<string, mixed> $options
 * @property string $status
 * @property float $progress
 * @property float $weight how much work it is, about
 * @property ?string $message
 * @property ?string $media_id
 * @property ?string $hash of a freeze: the content hash it is known by
 * @property ?array<string, mixed> $result of a print
 * @property ?Carbon $beat_at
 */
final class PrintPart extends Model implements Task
{
    protected $guarded = [];

    /** @return BelongsTo<PrintBatch, $this> */
    public function batch(): BelongsTo
    {
        return $this->belongsTo(PrintBatch::class, 'batch_id');
    }

    public function queue(): string
    {
        return 'default';
    }

    public function name(): string
    {
        return ($this->batch?->kind === 'freeze' ? 'The freeze of ' : 'The print of ').$this->name;
    }

    /** The others of its batch are not wanted without it. */
    public function failed(string $message): array
    {
        PrintBatch::query()->whereKey($this->batch_id)->where('status', 'running')->update(['status' => 'failed', 'message' => $message]);
        self::query()->where('batch_id', $this->batch_id)->whereKeyNot($this->id)->where('status', 'running')->update(['status' => 'stopping']);
        self::query()->where('batch_id', $this->batch_id)->whereKeyNot($this->id)->where('status', 'waiting')->update(['status' => 'stopped']);

        return ['status' => 'failed', 'message' => $message];
    }

    protected $casts = ['options' => 'array', 'result' => 'array', 'progress' => 'float', 'weight' => 'float', 'beat_at' => 'datetime'];
}
