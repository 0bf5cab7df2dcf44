<?php

declare(strict_types=1);

namespace Hafen\Preset;

use Hafen\Processor\ProcessorSpec;

/** Settings of one processor under a name, for a use such as "Voice". */
final readonly class Preset
{
    /** @param  array<string, float|string|bool>  $parameters  what differs from the defaults */
    public function __construct(public string $processor, public string $name, public string $use, public array $parameters)
    {
    }

    /**
     * Whether a setting is this preset's: all parameters stand alike but those that presets leave alone.
     *
     * @param  array<string, float|string|bool>  $parameters
     * @param  list<string>  $locked
     */
    public function matches(ProcessorSpec $spec, array $parameters, array $locked): bool
    {
        foreach ($spec->parameters as $parameter) {
            $wanted = $this->parameters[$parameter->id] ?? $parameter->default;
            $now = $parameters[$parameter->id] ?? $parameter->default;
            $isAlike = is_string($now) || is_bool($now) ? $now === $wanted : is_numeric($wanted) && (float) $now === (float) $wanted;
            if (! $isAlike && ! in_array($parameter->id, $locked, true)) {
                return false;
            }
        }

        return true;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['processor' => $this->processor, 'name' => $this->name, 'use' => $this->use, 'parameters' => (object) $this->parameters];
    }
}
