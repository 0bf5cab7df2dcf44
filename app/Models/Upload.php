<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUuids;
use Illuminate\Database\Eloquent\Model;

/**
 * A file on its way in, in pieces.
 *
 * @property string $id
 * @property string $name
 * @property int $bytes
 * @property int $received
 */
final class Upload extends Model
{
    use HasUuids;

    protected $guarded = [];

    protected $casts = ['bytes' => 'integer', 'received' => 'integer'];
}
