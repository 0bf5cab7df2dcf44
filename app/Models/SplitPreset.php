<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A split with its branches and their inserts, as in a document, under a name.
 *
 * @property int $id
 * @property string $name
 * @property string $split JSON
 * @property string $macros JSON: those that move it
 * @property string $sounds JSON: its sound switches
 */
final class SplitPreset extends Model
{
    protected $guarded = [];
}
