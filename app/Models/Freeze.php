<?php

declare(strict_types=1);

namespace App\Models;

use App\Work\Task;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * One channel that is rendered up to its fader, to play from the file. Status: waiting, running, stopping, done, stopped, failed.
 *
 * @property int $id
 * @property string $batch_id
 * @property string $channel
 * @property string $name of the channel
 * @property string $content what has the same has the same file
 * @property array<string, mixed> $options
 * @property string $status
 * @property float $progress
 * @property float $weight seconds it takes, about
 * @property ?string $message
 * @property ?string $media_id
 * @property ?string $hash content hash the freeze is known by
 * @property ?Carbon $beat_at
 */
final class Freeze extends Model implements Task
{
    protected $guarded = [];

    /** @return BelongsTo<FreezeBatch, $this> */
    public function batch(): BelongsTo
    {
        return $this->belongsTo(FreezeBatch::class, 'batch_id');
    }

    public function queue(): string
    {
        return 'default';
    }

    public function name(): string
    {
        return "The freeze of {$this->name}";
    }

    /** The others of its batch are not wanted without it. */
    public function failed(string $message): array
    {
        FreezeBatch::query()->whereKey($this->batch_id)->where('status', 'running')->update(['status' => 'failed', 'message' => $message]);
        self::query()->where('batch_id', $this->batch_id)->whereKeyNot($this->id)->where('status', 'running')->update(['status' => 'stopping']);
        self::query()->where('batch_id', $this->batch_id)->whereKeyNot($this->id)->where('status', 'waiting')->update(['status' => 'stopped']);

        return ['status' => 'failed', 'message' => $message];
    }

    protected $casts = ['options' => 'array', 'progress' => 'float', 'weight' => 'float', 'beat_at' => 'datetime'];
}
