<?php

declare(strict_types=1);

namespace Hafen\Preset;

/** Settings of one processor under a name, for a use such as "Voice". */
final readonly class Preset
{
    /** @param  array<string, float|string|bool>  $parameters  what differs from the defaults */
    public function __construct(public string $processor, public string $name, public string $use, public array $parameters)
    {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['processor' => $this->processor, 'name' => $this->name, 'use' => $this->use, 'parameters' => (object) $this->parameters];
    }
}
