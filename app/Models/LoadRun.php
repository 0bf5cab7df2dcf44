<?php

declare(strict_types=1);

namespace App\Models;

use App\Work\Task;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A measurement of what one state of a session takes of the machine. Status: waiting, running, done, failed, stopped.
 *
 * @property int $id
 * @property int $session_id
 * @property string $content hash of the document
 * @property string $status
 * @property float $progress
 * @property ?string $message
 * @property ?array<string, mixed> $result
 * @property ?Carbon $beat_at
 */
final class LoadRun extends Model implements Task
{
    protected $guarded = [];

    public function queue(): string
    {
        return 'default';
    }

    public function name(): string
    {
        return 'The measuring of the load';
    }

    public function failed(string $message): array
    {
        return ['status' => 'failed', 'message' => $message];
    }

    protected $casts = ['result' => 'array', 'progress' => 'float', 'beat_at' => 'datetime', 'session_id' => 'integer'];
}
