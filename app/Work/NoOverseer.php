<?php

declare(strict_types=1);

namespace App\Work;

/** The task lies in this database: what is written there is enough. */
final readonly class NoOverseer implements Overseer
{
    public function beaten(array $columns): bool
    {
        return true;
    }

    public function failed(string $message): void
    {
    }
}
