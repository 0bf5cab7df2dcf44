<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * Advice of the Pilot that somebody chose to leave as it is.
 *
 * @property int $session_id
 * @property string $advice
 */
final class DismissedAdvice extends Model
{
    protected $table = 'dismissed_advice';

    protected $guarded = [];
}
