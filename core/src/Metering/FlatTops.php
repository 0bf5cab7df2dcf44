<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\AudioSource;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\Samples;
use Hafen\Audio\WavReader;

/**
 * Finds where a recording was clipped: several samples on end at full scale. What goes beyond it, as floating point can, was not.
 *
 * Source: practice; three or more on end are hardly ever music.
 */
final class FlatTops
{
    private const RUN = 3;

    /** 16-bit files cannot say more than this. */
    private const FULL = 32767.0 / 32768.0;

    private const BLOCK = 8192;

    /**
     * @param  ?callable(): bool  $goOn  asked before each block; false stops
     * @return ?list<int> frame of the first sample of each run, of all channels of the file; null when stopped
     */
    public static function in(AudioSource $source, int $from, int $count, ?callable $goOn = null): ?array
    {
        $found = [];
        $runs = array_fill(0, $source->channels(), 0);
        // Samples beyond the end of the file are silent, whatever the clip's length.
        $count = min($count, $source->frames() - $from);
        for ($at = 0; $at < $count; $at += self::BLOCK) {
            SampleLoops::pause();
            if ($goOn !== null && ! $goOn()) {
                return null;
            }
            if ($source instanceof WavReader && array_sum($runs) === 0 && ! $source->mayBeFull($from + $at, min(self::BLOCK, $count - $at))) {
                continue;
            }
            foreach ($source->read($from + $at, min(self::BLOCK, $count - $at)) as $channel => $samples) {
                if ($runs[$channel] === 0 && Samples::peak($samples) < self::FULL) {
                    continue;
                }
                $run = $runs[$channel];
                foreach ($samples as $i => $sample) {
                    $run = abs($sample) >= self::FULL && abs($sample) <= 1.0 ? $run + 1 : 0;
                    if ($run === self::RUN) {
                        $found[] = $from + $at + $i - self::RUN + 1;
                    }
                }
                $runs[$channel] = $run;
            }
        }
        sort($found);

        return $found;
    }
}
