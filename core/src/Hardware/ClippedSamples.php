<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Audio\AudioSource;

/** Counts what a converter clipped in a recording: it stands at the ends of its range. */
final class ClippedSamples
{
    private const AT_ONCE = 65_536;

    public static function in(AudioSource $recording): int
    {
        $clipped = 0;
        for ($at = 0; $at < $recording->frames(); $at += self::AT_ONCE) {
            foreach ($recording->read($at, min(self::AT_ONCE, $recording->frames() - $at)) as $side) {
                // Few recordings hold any, so they are looked for only where the highest is one.
                if ($side !== [] && (max($side) >= Converter::HIGHEST || min($side) <= Converter::LOWEST)) {
                    $clipped += count(array_filter($side, static fn (float $sample): bool => $sample >= Converter::HIGHEST || $sample <= Converter::LOWEST));
                }
            }
        }

        return $clipped;
    }
}
