<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Audio\SampleLoops;
use Hafen\Audio\Samples;
use Hafen\Dsp\Spectrum\Fft;
use Hafen\Dsp\Spectrum\HannWindow;
use Hafen\Engine\Replay;

/**
 * How different two sounds are once their levels are matched: what is left when the magnitudes of the one's short-time spectrum,
 * at the gain that fits best, are taken from the other's, in dB below them. Shifts in phase, which a filter brings with it and
 * ears hardly hear, do not count.
 *
 * Source: least squares; the rest is 1 - r^2 of the correlation r.
 */
final class ToneChange
{
    /** Where rounding begins: what is less is no change. */
    private const NOTHING = 1e-10;

    private const SIZE = 2048;

    /**
     * @param  int  $from  place of the first sample in the one
     * @param  int  $at  place of the same sample in the other
     * @param  ?callable(): bool  $goOn  asked before each window; false stops
     * @return ?float dB, 0 is all of it; null is no change, nothing to compare, or stopped
     */
    public static function between(Replay $one, int $from, Replay $other, int $at, int $frames, ?callable $goOn = null): ?float
    {
        $fft = new Fft(self::SIZE);
        $window = HannWindow::of(self::SIZE);
        $aa = $bb = $ab = 0.0;
        for ($done = 0; $done < $frames; $done += self::SIZE) {
            SampleLoops::pause();
            if ($goOn !== null && ! $goOn()) {
                return null;
            }
            $a = self::magnitudes($one, $from + $done, $fft, $window);
            $b = self::magnitudes($other, $at + $done, $fft, $window);
            $aa += Samples::energy($a);
            $bb += Samples::energy($b);
            $ab += Samples::product($a, $b);
        }
        if ($aa <= 0.0 || $bb <= 0.0) {
            return null;
        }
        $rest = 1.0 - $ab * $ab / ($aa * $bb);

        return $rest <= self::NOTHING ? null : 10.0 * log10(min(1.0, $rest));
    }

    /**
     * @param  list<float>  $window
     * @return list<float> of both sides, one after the other
     */
    private static function magnitudes(Replay $sound, int $sourcePosition, Fft $fft, array $window): array
    {
        $block = $sound->read($sourcePosition, self::SIZE);
        [$lr, $li, $rr, $ri] = $fft->transformTwo(Samples::multiply($block->left, $window), Samples::multiply($block->right(), $window));
        $magnitudes = [];
        for ($i = 0, $n = self::SIZE >> 1; $i < $n; ++$i) {
            $magnitudes[] = sqrt($lr[$i] * $lr[$i] + $li[$i] * $li[$i]);
            $magnitudes[] = sqrt($rr[$i] * $rr[$i] + $ri[$i] * $ri[$i]);
        }

        return $magnitudes;
    }
}
