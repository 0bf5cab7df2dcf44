<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A pilot note somebody chose to leave as it is.
 *
 * @property int $session_id
 * @property string $note
 */
final class LeftNote extends Model
{
    protected $guarded = [];
}
