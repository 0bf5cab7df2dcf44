<?php

declare(strict_types=1);

namespace Hafen\Session;

/**
 * A processor in a row. `mix` runs from 0 (dry) to 1 (wet). `parameters` holds only what was set; the rest has its default.
 */
final readonly class ProcessorInsert implements Insert
{
    use Copies;

    /** @param  array<string, float|string|bool>  $parameters */
    public function __construct(
        public string $id,
        public string $processor,
        public bool $on = true,
        public float $mix = 1.0,
        public array $parameters = [],
    ) {
    }

    public function id(): string
    {
        return $this->id;
    }

    public function isOn(): bool
    {
        return $this->on;
    }

    public function withId(string $id): self
    {
        return $this->copy(id: $id);
    }

    public function withOn(bool $on): self
    {
        return $this->copy(on: $on);
    }

    public function withMix(float $mix): self
    {
        return $this->copy(mix: $mix);
    }

    public function withParameter(string $parameter, float|string|bool $value): self
    {
        return $this->copy(parameters: [...$this->parameters, $parameter => $value]);
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function withParameters(array $parameters): self
    {
        return $this->copy(parameters: $parameters);
    }
}
