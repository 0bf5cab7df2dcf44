<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * One state of a session and the edit that led to it.
 *
 * @property int $id
 * @property int $session_id
 * @property ?int $parent_id
 * @property string $difference see RevisionDocuments
 * @property int $depth
 * @property list<string> $touches
 * @property string $label
 * @property ?string $gesture
 * @property Carbon $created_at
 */
final class Revision extends Model
{
    protected $guarded = [];

    protected $casts = ['parent_id' => 'integer', 'session_id' => 'integer', 'touches' => 'array', 'depth' => 'integer'];
}
