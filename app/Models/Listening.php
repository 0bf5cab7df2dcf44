<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUuids;
use Illuminate\Database\Eloquent\Model;

/**
 * Somebody listening: at which tap, over which loop, comparing what, on which side.
 *
 * @property string $id
 * @property int $session_id
 * @property ?string $tap
 * @property ?int $loop_start
 * @property ?int $loop_end
 * @property ?array{insert?: string, row?: string, plan?: int} $compare
 * @property ?array{channel: string, frequency: float} $sweep
 * @property ?string $watch
 * @property ?list<string> $metered
 * @property ?list<array{channel: string, tap: string}> $record
 * @property ?list<string> $armed
 * @property ?array{channel: string, keys: list<array{int, int, int}>} $played
 * @property bool $standing
 * @property ?float $quick
 * @property bool $interface
 * @property bool $beside
 * @property int $side
 * @property bool $stopped
 */
final class Listening extends Model
{
    use HasUuids;

    protected $guarded = [];

    protected $casts = ['loop_start' => 'integer', 'loop_end' => 'integer', 'compare' => 'array', 'sweep' => 'array', 'record' => 'array', 'metered' => 'array', 'punch' => 'array', 'armed' => 'array', 'played' => 'array', 'click' => 'boolean', 'standing' => 'boolean', 'interface' => 'boolean', 'beside' => 'boolean', 'side' => 'integer', 'stopped' => 'boolean', 'session_id' => 'integer'];
}
