<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Dsp\Spectrum\Fft;
use Hafen\Dsp\Spectrum\HannWindow;

/**
 * The key a recording is most likely in.
 *
 * Source: C. Krumhansl, "Cognitive foundations of musical pitch", 1990: how strongly each of the twelve notes sounds is correlated with the
 * profiles of Krumhansl & Kessler (figures from memory) of all 24 keys. A note's strength is that of the spectral peaks nearest to it
 * in 16384-sample windows between 55 Hz and 2 kHz.
 */
final readonly class MusicalKey
{
    private const MAJOR = [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88];

    private const MINOR = [6.33, 2.68, 3.52, 5.38, 2.60, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17];

    private const WINDOW = 16384;

    private const KEYS = ['c', 'c-sharp', 'd', 'e-flat', 'e', 'f', 'f-sharp', 'g', 'a-flat', 'a', 'b-flat', 'b'];

    /**
     * @param  string  $key  root, as pitch correction names it
     * @param  string  $scale  "major" or "minor"
     * @param  float  $lead  by how much its correlation leads that of the next key, 0 to 2
     */
    private function __construct(public string $key, public string $scale, public float $lead)
    {
    }

    /**
     * @param  list<float>  $samples
     * @return ?self null where nothing sounds
     */
    public static function of(array $samples, int $sampleRate): ?self
    {
        $strengths = self::strengths($samples, $sampleRate);
        if (max($strengths) <= 0.0) {
            return null;
        }
        $found = [];
        foreach (['major' => self::MAJOR, 'minor' => self::MINOR] as $scale => $profile) {
            foreach (self::KEYS as $root => $key) {
                $turned = array_map(static fn (int $step): float => $strengths[($root + $step) % 12], range(0, 11));
                $found[] = [self::correlation($turned, $profile), $key, $scale];
            }
        }
        usort($found, static fn (array $a, array $b): int => $b[0] <=> $a[0]);

        return new self($found[0][1], $found[0][2], $found[0][0] - $found[1][0]);
    }

    /**
     * @param  list<float>  $samples
     * @return non-empty-array<int, float> of the twelve notes from C
     */
    private static function strengths(array $samples, int $sampleRate): array
    {
        $strengths = array_fill(0, 12, 0.0);
        $fft = new Fft(self::WINDOW);
        $window = HannWindow::of(self::WINDOW);
        $silence = array_fill(0, self::WINDOW, 0.0);
        $first = max(2, (int) ceil(55.0 * self::WINDOW / $sampleRate));
        $last = min(self::WINDOW / 2 - 2, (int) floor(2000.0 * self::WINDOW / $sampleRate));
        for ($at = 0, $n = count($samples); $at + self::WINDOW <= $n; $at += self::WINDOW) {
            $windowed = array_map(static fn (float $x, float $w): float => $x * $w, array_slice($samples, $at, self::WINDOW), $window);
            [$re, $im] = $fft->transform($windowed, $silence);
            $levels = [];
            for ($k = $first - 1; $k <= $last + 1; ++$k) {
                $levels[$k] = hypot($re[$k], $im[$k]);
            }
            $threshold = 0.02 * max([0.0, ...$levels]);
            for ($k = $first; $k <= $last; ++$k) {
                if ($levels[$k] > $threshold && $levels[$k] > $levels[$k - 1] && $levels[$k] >= $levels[$k + 1]) {
                    $curve = $levels[$k - 1] - 2.0 * $levels[$k] + $levels[$k + 1];
                    $sourcePosition = $k + ($curve === 0.0 ? 0.0 : 0.5 * ($levels[$k - 1] - $levels[$k + 1]) / $curve);
                    $note = (int) round(69.0 + 12.0 * log($sourcePosition * $sampleRate / self::WINDOW / 440.0, 2.0));
                    $strengths[$note % 12] += sqrt($levels[$k]);
                }
            }
        }

        return $strengths;
    }

    /**
     * Pearson's.
     *
     * @param  non-empty-array<float>  $a
     * @param  non-empty-array<float>  $b
     */
    private static function correlation(array $a, array $b): float
    {
        $meanA = array_sum($a) / 12.0;
        $meanB = array_sum($b) / 12.0;
        $ab = $aa = $bb = 0.0;
        foreach ($a as $i => $x) {
            $dx = $x - $meanA;
            $dy = $b[$i] - $meanB;
            $ab += $dx * $dy;
            $aa += $dx * $dx;
            $bb += $dy * $dy;
        }

        return $ab / sqrt(max(1e-30, $aa * $bb));
    }
}
