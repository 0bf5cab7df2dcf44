<?php

declare(strict_types=1);

namespace Hafen\Dsp;

/** White noise from a seed: x' = 16807 x mod (2^31 - 1) (Lewis, Goodman, Miller 1969). */
final class Noise
{
    private const FACTOR = 16807;

    private const MODULUS = 2_147_483_647;

    private int $state;

    public function __construct(int $seed)
    {
        $this->state = max(1, $seed % self::MODULUS);
    }

    /**
     * Noise that is the same at the same sample of a session, wherever playing begins: so many steps after a seed of 1, which is the factor to
     * the power of their number. It comes round after 2^31 - 2 steps.
     */
    public static function at(int $position): self
    {
        $period = self::MODULUS - 1;
        $state = 1;
        $factor = self::FACTOR;
        for ($steps = ($position % $period + $period) % $period; $steps > 0; $steps >>= 1) {
            $state = ($steps & 1) === 1 ? $state * $factor % self::MODULUS : $state;
            $factor = $factor * $factor % self::MODULUS;
        }

        return new self($state);
    }

    /** Between -1 and +1. */
    public function next(): float
    {
        $this->state = ($this->state * self::FACTOR) % self::MODULUS;

        return $this->state / 1_073_741_823.5 - 1.0;
    }

    /** @return list<float> */
    public function samples(int $count): array
    {
        $state = $this->state;
        $out = [];
        for ($i = 0; $i < $count; ++$i) {
            $state = ($state * self::FACTOR) % self::MODULUS;
            $out[] = $state / 1_073_741_823.5 - 1.0;
        }
        $this->state = $state;

        return $out;
    }
}
