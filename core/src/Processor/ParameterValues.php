<?php

declare(strict_types=1);

namespace Hafen\Processor;

use LogicException;

/** A value for every parameter of one processor; what a document leaves out has its default. */
final readonly class ParameterValues
{
    /** @param  array<string, float|string|bool>  $values */
    private function __construct(private array $values)
    {
    }

    /** @param  array<string, float|string|bool>  $given checked before, see {@see ParameterSpec::objection()} */
    public static function of(ProcessorSpec $spec, array $given = []): self
    {
        $values = [];
        foreach ($spec->parameters as $parameter) {
            $values[$parameter->id] = $given[$parameter->id] ?? $parameter->default;
        }

        return new self($values);
    }

    public function number(string $id): float
    {
        $value = $this->values[$id] ?? null;

        return is_float($value) ? $value : throw new LogicException("No number \"{$id}\".");
    }

    public function choice(string $id): string
    {
        $value = $this->values[$id] ?? null;

        return is_string($value) ? $value : throw new LogicException("No choice \"{$id}\".");
    }

    /** The name of a recording, or empty. */
    public function text(string $id): string
    {
        return $this->choice($id);
    }

    public function on(string $id): bool
    {
        $value = $this->values[$id] ?? null;

        return is_bool($value) ? $value : throw new LogicException("No switch \"{$id}\".");
    }

    /**
     * These values with some numbers and switches replaced, for controls on their way to a new place.
     *
     * @param  array<string, float|bool>  $moved
     */
    public function withMoved(array $moved): self
    {
        return new self([...$this->values, ...$moved]);
    }

    /** @return array<string, float|string|bool> */
    public function toArray(): array
    {
        return $this->values;
    }
}
