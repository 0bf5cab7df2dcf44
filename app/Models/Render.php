<?php

declare(strict_types=1);

namespace App\Models;

use App\Work\Task;
use Illuminate\Database\Eloquent\Concerns\HasUuids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A render that was asked for. Status: waiting, running, stopping, done, stopped, failed, refused (it
 * would clip).
 *
 * @property string $id
 * @property int $session_id
 * @property string $document compressed (RFC 1951)
 * @property array<string, mixed> $options
 * @property string $name
 * @property string $status
 * @property float $progress
 * @property ?string $message
 * @property ?array<string, mixed> $result
 * @property ?Carbon $beat_at
 */
final class Render extends Model implements Task
{
    use HasUuids;

    protected $guarded = [];

    protected $attributes = ['status' => 'waiting'];

    public function queue(): string
    {
        return 'default';
    }

    public function name(): string
    {
        return 'The render';
    }

    public function failed(string $message): array
    {
        return ['status' => 'failed', 'message' => $message];
    }

    protected $casts = ['options' => 'array', 'result' => 'array', 'progress' => 'float', 'beat_at' => 'datetime', 'session_id' => 'integer'];
}
