<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Processor\ParameterSpec;

/**
 * What a unit of outboard is called, its knobs, and what its electronics do to all that passes.
 *
 * `delay` in ms, of all that passes; `level` in dB at 1 kHz with its knobs as it comes; `highest` in Hz, where its band ends; `hum` and `hiss` in dBFS (RMS),
 * always there; `tail` in ms.
 */
final readonly class UnitSpec
{
    /** @param  list<ParameterSpec>  $knobs */
    public function __construct(
        public string $id,
        public string $name,
        public string $purpose,
        public array $knobs,
        public bool $isStereo,
        public float $delay,
        public float $level,
        public float $highest,
        public float $hum,
        public float $hiss,
        public float $tail,
    ) {
    }

    public function knob(string $id): ?ParameterSpec
    {
        return array_values(array_filter($this->knobs, static fn (ParameterSpec $knob): bool => $knob->id === $id))[0] ?? null;
    }

    /**
     * A position for every knob.
     *
     * @param  array<string, float|string|bool>  $turned  those that are not as it comes
     * @return array<string, float|string|bool>
     */
    public function positions(array $turned): array
    {
        $positions = [];
        foreach ($this->knobs as $knob) {
            $positions[$knob->id] = isset($turned[$knob->id]) && $knob->objection($turned[$knob->id]) === null ? $turned[$knob->id] : $knob->default;
        }

        return $positions;
    }

    /**
     * @return array<string, float|string|bool>
     *
     * @throws InvalidDocument naming the knob, the value and what is allowed
     */
    public function read(JsonNode $node): array
    {
        $turned = [];
        foreach ($node->entries() as $id => $value) {
            $knob = $this->knob((string) $id) ?? throw InvalidDocument::at($value->pointer, "The {$this->name} has no knob \"{$id}\"");
            $objection = $knob->objection($value->value);
            if ($objection !== null) {
                throw InvalidDocument::at($value->pointer, "Found {$value->shown()}; {$knob->label} of the {$this->name} {$objection}");
            }
            /** @var int|float|string|bool $plain */
            $plain = $value->value;
            $turned[(string) $id] = is_int($plain) ? (float) $plain : $plain;
        }

        return $turned;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            'purpose' => $this->purpose,
            'isStereo' => $this->isStereo,
            'knobs' => array_map(static fn (ParameterSpec $knob): array => $knob->toArray(), $this->knobs),
        ];
    }
}
