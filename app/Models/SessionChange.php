<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * What one change touched, so that an edit made on an older state can be carried over where it touches other things.
 *
 * @property int $number
 * @property list<string> $touches
 * @property string $label
 */
final class SessionChange extends Model
{
    public const UPDATED_AT = null;

    protected $guarded = [];

    protected $casts = ['number' => 'integer', 'touches' => 'array'];
}
