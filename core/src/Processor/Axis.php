<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** One side of a picture. */
final readonly class Axis
{
    public function __construct(public string $unit, public float $min, public float $max, public Scale $scale)
    {
    }

    /** @return array{unit: string, min: float, max: float, scale: string} */
    public function toArray(): array
    {
        return ['unit' => $this->unit, 'min' => $this->min, 'max' => $this->max, 'scale' => $this->scale->value];
    }
}
