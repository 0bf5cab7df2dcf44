<?php

declare(strict_types=1);

namespace App\Models;

use App\Work\Task;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * What of a survey one job measures: one pass, under the name of its first channel. Status: waiting, running, done, dropped.
 *
 * @property int $id
 * @property int $survey_id
 * @property string $channel
 * @property string $status
 * @property int $weight
 * @property int $place in the order they are measured
 * @property ?array<string, mixed> $levels of the taps so far, while it is measured
 * @property float $progress
 * @property ?Carbon $beat_at
 */
final class SurveyPart extends Model implements Task
{
    protected $guarded = [];

    public function queue(): string
    {
        return 'surveys';
    }

    public function name(): string
    {
        return 'The survey';
    }

    /** The survey fails with one of its parts. */
    public function failed(string $message): array
    {
        Survey::query()->whereKey($this->survey_id)->where('status', 'running')->update(['status' => 'failed', 'message' => $message]);

        return ['status' => 'dropped'];
    }

    protected $casts = ['survey_id' => 'integer', 'weight' => 'integer', 'place' => 'integer', 'levels' => 'array', 'progress' => 'float', 'beat_at' => 'datetime'];
}
