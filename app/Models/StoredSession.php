<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Database\Eloquent\SoftDeletes;
use Illuminate\Support\Carbon;

/**
 * A session and where it stands among its revisions.
 *
 * @property int $id
 * @property string $name
 * @property ?int $head_id
 * @property int $change
 * @property string $document of the head
 * @property ?string $notice what happened to the session that its owner has to know
 * @property ?Carbon $deleted_at
 * @property-read Revision $head
 */
final class StoredSession extends Model
{
    // A session that was deleted can be brought back for a day.
    use SoftDeletes;

    protected $table = 'sessions';

    protected $guarded = [];

    protected $casts = ['head_id' => 'integer', 'change' => 'integer'];

    /** @return BelongsTo<Revision, $this> */
    public function head(): BelongsTo
    {
        return $this->belongsTo(Revision::class, 'head_id');
    }

    /** @return HasMany<Revision, $this> */
    public function revisions(): HasMany
    {
        return $this->hasMany(Revision::class, 'session_id');
    }

    /** @return HasMany<SessionChange, $this> */
    public function changes(): HasMany
    {
        return $this->hasMany(SessionChange::class, 'session_id');
    }
}
