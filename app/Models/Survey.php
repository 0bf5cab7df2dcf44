<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * A measurement of one state of a session, over all of it or a range. Status: running, done, failed, stopped, dropped (nobody
 * waits for it any more).
 *
 * @property int $id
 * @property int $session_id
 * @property string $content key of the survey's map
 * @property int $change
 * @property ?int $from
 * @property ?int $to
 * @property string $status
 * @property int $weight of all that had to be measured when it was asked for
 * @property ?string $message
 * @property ?object $result
 * @property ?Carbon $created_at
 */
final class Survey extends Model
{
    protected $guarded = [];

    protected $casts = ['result' => 'object', 'change' => 'integer', 'session_id' => 'integer', 'weight' => 'integer', 'from' => 'integer', 'to' => 'integer'];

    /** @return HasMany<SurveyPart, $this> */
    public function parts(): HasMany
    {
        return $this->hasMany(SurveyPart::class);
    }
}
