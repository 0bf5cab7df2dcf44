<?php

declare(strict_types=1);

namespace Hafen\Preset;

use Hafen\Session\Insert\Insert;

/** Several inserts, with the splits among them, under a name. */
final readonly class RowPreset
{
    /** @param  list<Insert>  $inserts */
    public function __construct(public string $name, public string $use, public array $inserts)
    {
    }
}
