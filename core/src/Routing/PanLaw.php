<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Width;

/**
 * Amplitude factors of the two sides for a pan position.
 *
 * A mono channel follows a sine/cosine law: at -3 dB constant power (-3.01 dB a side at the centre), steeper laws as a
 * power of it, gentler ones scaled and held at 0 dB. A stereo channel is balanced: centre unchanged, one side falling.
 * Source: constant-power panning, practice.
 */
final class PanLaw
{
    /**
     * @param  float  $pan  -1 (left) to +1 (right)
     * @param  float  $law  gain at the centre in dB, -6 to 0
     * @return array{float, float} left, right
     */
    public static function gains(Width $width, float $pan, float $law): array
    {
        $angle = ($pan + 1.0) * M_PI_4;
        $left = max(0.0, cos($angle));
        $right = max(0.0, sin($angle));
        if ($pan >= 1.0) {
            $left = 0.0;
        }
        if ($width === Width::Stereo) {
            return [min(1.0, $left * M_SQRT2), min(1.0, $right * M_SQRT2)];
        }
        if ($law <= -3.0) {
            $power = $law / -3.0;

            return [$left ** $power, $right ** $power];
        }
        $scale = M_SQRT2 * 10.0 ** ($law / 20.0);

        return [min(1.0, $left * $scale), min(1.0, $right * $scale)];
    }
}
