<?php

declare(strict_types=1);

namespace Hafen\Preset;

use Hafen\Session\Insert\Insert;
use Hafen\Session\Macro\RowControls;

/** Several inserts, with the splits among them, under a name, and with the macros and sound switches that move them. */
final readonly class RowPreset
{
    /** @param  list<Insert>  $inserts */
    public function __construct(public string $name, public string $use, public array $inserts, public RowControls $controls = new RowControls)
    {
    }
}
