<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * Triangular dither of two steps peak to peak, added before rounding to fixed point.
 *
 * Source: Lipshitz, Wannamaker, Vanderkooy, "Quantization and dither", JAES 1992: TPDF of that width makes the
 * error independent of the signal in mean and power, 4.77 dB above the undithered error. The numbers come from a
 * seeded 31-bit linear congruential generator (multiplier of Lewis, Goodman, Miller 1969), so a render repeats exactly.
 */
final class Dither
{
    private int $state;

    public function __construct(int $seed = 20_261_124)
    {
        $this->state = max(1, $seed % 2_147_483_647);
    }

    /** @return list<float> noise in steps, between -1 and +1 */
    public function next(int $count): array
    {
        $state = $this->state;
        $scale = 1.0 / 2_147_483_647.0;
        $out = [];
        for ($i = 0; $i < $count; ++$i) {
            $state = ($state * 16807) % 2_147_483_647;
            $first = $state;
            $state = ($state * 16807) % 2_147_483_647;
            $out[] = ($first - $state) * $scale;
        }
        $this->state = $state;

        return $out;
    }
}
