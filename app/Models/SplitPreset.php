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
 */
final class SplitPreset extends Model
{
    protected $guarded = [];
}
