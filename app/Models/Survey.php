<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A whole-length measurement of one state of a session. Status: waiting, running, done, failed.
 *
 * @property int $id
 * @property int $session_id
 * @property string $content
 * @property int $change
 * @property string $status
 * @property float $progress
 * @property ?string $message
 * @property ?array<string, mixed> $result
 * @property ?Carbon $beat_at
 */
final class Survey extends Model
{
    protected $guarded = [];

    protected $casts = ['result' => 'array', 'progress' => 'float', 'change' => 'integer', 'beat_at' => 'datetime', 'session_id' => 'integer'];
}
