<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Source\TapSource;

/**
 * A processor in a row. `mix` runs from 0 (dry) to 1 (wet). `parameters` holds only what was set; the rest has its default.
 * `locked` names the parameters presets leave alone; `other` is a second setting kept beside the one at work;
 * `preset` is the name of the preset taken last; `sidechain` is what it listens to instead of the sound it works on, `notes` the id of
 * the note channel that steers it.
 */
final readonly class ProcessorInsert implements Insert
{
    use SingleInsert;

    /**
     * @param  array<string, float|string|bool>  $parameters
     * @param  list<string>  $locked
     */
    public function __construct(
        public string $id,
        public string $processor,
        public bool $on = true,
        public float $mix = 1.0,
        public array $parameters = [],
        public array $locked = [],
        public ?OtherSetting $other = null,
        public string $preset = '',
        public ?TapSource $sidechain = null,
        public ?string $notes = null,
    ) {
    }

    public function sidechain(): ?TapSource
    {
        return $this->sidechain;
    }

    public function withParameter(string $parameter, float|string|bool $value): self
    {
        return $this->copy(parameters: [...$this->parameters, $parameter => $value]);
    }

    public function withLocked(string $parameter, bool $locked): self
    {
        $others = array_values(array_filter($this->locked, static fn (string $other): bool => $other !== $parameter));

        return $this->copy(locked: $locked ? [...$others, $parameter] : $others);
    }

    public function withSidechain(?TapSource $sidechain): self
    {
        return $this->copy(sidechain: $sidechain);
    }

    public function withNotes(?string $notes): self
    {
        return $this->copy(notes: $notes);
    }

    public function withPreset(string $preset): self
    {
        return $this->copy(preset: $preset);
    }

    public function withOther(?OtherSetting $other): self
    {
        return $this->copy(other: $other);
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function withParameters(array $parameters): self
    {
        return $this->copy(parameters: $parameters);
    }
}
