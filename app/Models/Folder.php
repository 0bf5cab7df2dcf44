<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A folder of one's own in the finder, with the effects that lie in it. Favourites are the folder without a name.
 *
 * @property int $id
 * @property string $name
 * @property list<string> $processors ids, in the order they were put in
 */
final class Folder extends Model
{
    public const FAVOURITES = '';

    protected $guarded = [];

    /** @return array<string, string> */
    protected function casts(): array
    {
        return ['processors' => 'array'];
    }
}
