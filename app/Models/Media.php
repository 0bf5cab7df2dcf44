<?php

declare(strict_types=1);

namespace App\Models;

use App\Work\Task;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A file that was imported, under the SHA-256 of its bytes. Status: waiting or running while it is prepared, then ready or failed.
 *
 * @property string $id
 * @property string $name
 * @property string $extension
 * @property int $bytes
 * @property string $status
 * @property ?string $message
 * @property ?int $sample_rate
 * @property ?int $channels
 * @property ?int $frames
 * @property ?string $format
 * @property ?int $prepare_rate Hz at which a session wants it
 * @property int $unreadable samples that were no numbers, or infinite, and are read as silence
 * @property ?string $frozen_from name of the channel it is a freeze of; null for what was imported
 * @property float $progress
 * @property ?Carbon $beat_at
 * @property ?list<float> $overview
 */
final class Media extends Model implements Task
{
    public $incrementing = false;

    protected $keyType = 'string';

    protected $guarded = [];

    public function queue(): string
    {
        return 'default';
    }

    public function name(): string
    {
        return "The import of {$this->name}";
    }

    public function failed(string $message): array
    {
        return ['status' => 'failed', 'message' => $message];
    }

    /** Whether its sound is on its way. */
    public function isPreparing(): bool
    {
        return in_array($this->status, ['waiting', 'running', 'stopping'], true);
    }

    protected $casts = ['overview' => 'array', 'bytes' => 'integer', 'sample_rate' => 'integer', 'channels' => 'integer', 'frames' => 'integer', 'prepare_rate' => 'integer', 'unreadable' => 'integer', 'progress' => 'float', 'beat_at' => 'datetime'];
}
