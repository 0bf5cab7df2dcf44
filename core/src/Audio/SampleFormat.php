<?php

declare(strict_types=1);

namespace Hafen\Audio;

/** How one sample is written in a file. */
enum SampleFormat: string
{
    case Int8 = '8';
    case Int16 = '16';
    case Int24 = '24';
    case Int32 = '32';
    case Float32 = '32f';
    case Float64 = '64f';

    public function bytes(): int
    {
        return match ($this) {
            self::Int8 => 1,
            self::Int16 => 2,
            self::Int24 => 3,
            self::Int32, self::Float32 => 4,
            self::Float64 => 8,
        };
    }

    /** True where samples above full scale are kept; fixed-point formats clip them. */
    public function isFloat(): bool
    {
        return $this === self::Float32 || $this === self::Float64;
    }

    /** Number of quantisation steps from 0 to full scale; 0 for float formats. */
    public function steps(): int
    {
        return $this->isFloat() ? 0 : 1 << ($this->bytes() * 8 - 1);
    }

    public function label(): string
    {
        return $this->isFloat() ? ($this->bytes() * 8).'-bit float' : ($this->bytes() * 8).'-bit';
    }
}
