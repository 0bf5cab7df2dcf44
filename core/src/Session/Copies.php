<?php

declare(strict_types=1);

namespace Hafen\Session;

/** For immutable values whose constructor takes all of their properties by name. */
trait Copies
{
    /** This value with some properties changed. */
    private function copy(mixed ...$changes): self
    {
        /** @phpstan-ignore argument.type (callers pass properties of this class under their own names) */
        return new self(...[...get_object_vars($this), ...$changes]);
    }
}
