<?php

declare(strict_types=1);

namespace App\Models;

use App\Work\Task;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * Remedies whose outcome was asked for. Status: waiting, running, shown, done, failed, stopped, dropped (nobody waits for it any more).
 * A prediction comes first as what was found around the loudest moment ("shown"); where somebody wants it, it is then proved over the
 * whole length ("done").
 *
 * @property int $id
 * @property int $session_id
 * @property string $content key of the survey's map
 * @property array<string, mixed> $choice
 * @property string $status
 * @property float $progress
 * @property ?array<string, mixed> $prediction null, once done: there is nothing they can do
 * @property ?string $message
 * @property bool $is_wanted whether it is to be proved
 * @property ?Carbon $beat_at
 */
final class RemedyPlan extends Model implements Task
{
    protected $guarded = [];

    /** What shows first goes before the proofs of others. */
    public function queue(): string
    {
        return $this->prediction !== null ? 'proofs' : 'previews';
    }

    public function name(): string
    {
        return 'The prediction';
    }

    public function failed(string $message): array
    {
        return ['status' => 'failed', 'message' => $message];
    }

    protected $casts = ['choice' => 'array', 'prediction' => 'array', 'progress' => 'float', 'beat_at' => 'datetime', 'session_id' => 'integer', 'is_wanted' => 'boolean'];
}
