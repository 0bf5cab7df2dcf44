<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A processor's settings under a name.
 *
 * @property int $id
 * @property string $processor
 * @property string $name
 * @property string $use
 * @property array<string, float|string|bool> $parameters
 */
final class Preset extends Model
{
    protected $guarded = [];

    protected $casts = ['parameters' => 'array'];
}
