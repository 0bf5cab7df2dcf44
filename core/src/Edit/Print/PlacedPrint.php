<?php

declare(strict_types=1);

namespace Hafen\Edit\Print;

use Hafen\Edit\Channel\NewFile;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\PrintedFrom;

/** A print and what it was made from. */
final readonly class PlacedPrint
{
    public function __construct(public NewFile $file, public PrintedFrom $from, public string $name)
    {
    }

    public function clip(): Clip
    {
        return $this->file->clip()->withPrintedFrom($this->from);
    }
}
