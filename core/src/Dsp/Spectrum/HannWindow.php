<?php

declare(strict_types=1);

namespace Hafen\Dsp\Spectrum;

/** The window that rises and falls as half a turn of a cosine; its squares, and at half overlap its values, add up to a constant. */
final readonly class HannWindow
{
    /** Its mean square. */
    public const MEAN_SQUARE = 0.375;

    /** @return list<float> */
    public static function of(int $size): array
    {
        $window = [];
        for ($i = 0; $i < $size; ++$i) {
            $window[] = 0.5 - 0.5 * cos(2.0 * M_PI * ($i + 0.5) / $size);
        }

        return $window;
    }
}
