<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * The page of whoever hears a cue. Who knows its key may set the few faders of that cue, and nothing else.
 *
 * @property string $key
 * @property int $session_id
 * @property string $cue
 */
final class PerformerPage extends Model
{
    public $incrementing = false;

    protected $primaryKey = 'key';

    protected $keyType = 'string';

    protected $guarded = [];

    protected $casts = ['session_id' => 'integer'];
}
