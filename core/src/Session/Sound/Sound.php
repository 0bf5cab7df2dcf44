<?php

declare(strict_types=1);

namespace Hafen\Session\Sound;

use Hafen\Session\Copies;
use Hafen\Session\Macro\MacroTarget;

/** How the rows of a channel stand under a name: Clean, Driven, Lead. */
final readonly class Sound
{
    use Copies;

    /** @param  array<string, ?float>  $values  of each control by its target ({@see MacroTarget::text()}): 0 or 1 of a switch; null is silence */
    public function __construct(public string $id, public string $name, public array $values)
    {
    }

    public function withId(string $id): self
    {
        return $this->copy(id: $id);
    }

    public function withName(string $name): self
    {
        return $this->copy(name: $name);
    }

    /** @param  array<string, ?float>  $values */
    public function withValues(array $values): self
    {
        return $this->copy(values: $values);
    }
}
