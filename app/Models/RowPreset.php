<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * Several inserts, as in a document, under a name.
 *
 * @property int $id
 * @property string $name
 * @property string $use
 * @property string $inserts JSON
 * @property string $macros JSON: those that move it
 * @property string $sounds JSON: its sound switches
 */
final class RowPreset extends Model
{
    protected $guarded = [];
}
