<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A file that was imported, under the SHA-256 of its bytes. Status: preparing, ready or failed.
 *
 * @property string $id
 * @property string $name
 * @property string $extension
 * @property int $bytes
 * @property string $status
 * @property ?string $message
 * @property ?int $sample_rate
 * @property ?int $channels
 * @property ?int $frames
 * @property ?string $format
 * @property ?list<float> $overview
 */
final class Media extends Model
{
    public $incrementing = false;

    protected $keyType = 'string';

    protected $guarded = [];

    protected $casts = ['overview' => 'array', 'bytes' => 'integer', 'sample_rate' => 'integer', 'channels' => 'integer', 'frames' => 'integer'];
}
