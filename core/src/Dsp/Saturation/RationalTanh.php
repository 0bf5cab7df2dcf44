<?php

declare(strict_types=1);

namespace Hafen\Dsp\Saturation;

/** The soft curve x(27 + x^2)/(27 + 9x^2), which meets +-1 at +-3 with a flat tangent (a Pade approximant of tanh). */
final class RationalTanh
{
    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    public static function bend(array $samples): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $samples[$i];
            if ($x >= 3.0) {
                $x = 3.0;
            } elseif ($x <= -3.0) {
                $x = -3.0;
            }
            $square = $x * $x;
            $samples[$i] = $x * (27.0 + $square) / (27.0 + 9.0 * $square);
        }

        return $samples;
    }
}
