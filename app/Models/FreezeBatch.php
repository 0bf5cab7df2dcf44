<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUuids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * Channels that are frozen together, as one step. Status: running, done, failed, stopped.
 *
 * @property string $id
 * @property int $session_id
 * @property string $status
 * @property string $document compressed (RFC 1951)
 * @property ?string $message
 * @property ?Carbon $created_at
 */
final class FreezeBatch extends Model
{
    use HasUuids;

    protected $guarded = [];

    protected $casts = ['session_id' => 'integer'];

    /** @return HasMany<Freeze, $this> */
    public function freezes(): HasMany
    {
        return $this->hasMany(Freeze::class, 'batch_id');
    }
}
