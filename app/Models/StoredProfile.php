<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * How the audio interface is set. There is one.
 *
 * @property int $id
 * @property string $profile JSON, see Hafen\Hardware\ProfileCodec
 * @property array<int, int> $clipped samples by port, since that was cleared
 * @property int $change grows with each setting
 */
final class StoredProfile extends Model
{
    protected $table = 'interface_profiles';

    protected $guarded = [];

    protected $casts = ['clipped' => 'array', 'change' => 'integer'];
}
