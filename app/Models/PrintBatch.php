<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUuids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * Channels that are frozen, or printed, together as one step. Status: running, done, failed, stopped.
 *
 * @property string $id
 * @property int $session_id
 * @property string $kind "freeze", "print", or "files": a print that goes to files
 * @property array<string, mixed> $options how what was printed is put into the session
 * @property string $status
 * @property string $document compressed (RFC 1951)
 * @property ?string $message
 * @property ?Carbon $created_at
 */
final class PrintBatch extends Model
{
    use HasUuids;

    protected $guarded = [];

    protected $casts = ['session_id' => 'integer', 'options' => 'array'];

    /** @return HasMany<PrintPart, $this> */
    public function parts(): HasMany
    {
        return $this->hasMany(PrintPart::class, 'batch_id');
    }
}
