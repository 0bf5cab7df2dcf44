<?php

declare(strict_types=1);

namespace App\Storage;

use Hafen\Refusal;

/** Something was to be removed that is in use. */
final class StillUsed extends Refusal
{
    /** @param  list<string>  $users */
    public static function by(string $name, array $users): self
    {
        return new self('media', "{$name} is used by ".implode(', ', array_slice($users, 0, 5)).(count($users) > 5 ? ' and others' : '').', if only in an older revision. Nothing was removed.');
    }

    public static function preparing(string $name): self
    {
        return new self('media', "{$name} is being prepared. Wait until that is done.");
    }
}
