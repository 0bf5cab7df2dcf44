<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

/**
 * Delays one side by any part of a sample and ends its band, in one filter of linear phase.
 *
 * Source: windowed sinc (Laakso, Välimäki, Karjalainen, Laine, "Splitting the Unit Delay", IEEE SP Magazine 1996), Blackman window.
 */
final class Electronics
{
    private const TAPS = 48;

    /** @var list<float> */
    private array $taps = [];

    /** @var list<float> what came last, as many as are needed for the next sample */
    private array $past;

    /**
     * @param  float  $delay  in samples, at least 24
     * @param  float  $highest  Hz, where the band ends
     */
    public function __construct(float $delay, float $highest, int $sampleRate)
    {
        $whole = (int) floor($delay) - intdiv(self::TAPS, 2) + 1;
        $centre = $delay - $whole;
        $band = min(0.96, 2.0 * $highest / $sampleRate);
        $sum = 0.0;
        for ($i = 0; $i < self::TAPS; ++$i) {
            $x = $i - $centre;
            $window = abs($x) >= self::TAPS / 2 ? 0.0 : 0.42 + 0.5 * cos(2.0 * M_PI * $x / self::TAPS) + 0.08 * cos(4.0 * M_PI * $x / self::TAPS);
            $this->taps[] = $tap = $window * (abs($x) < 1e-9 ? $band : sin(M_PI * $band * $x) / (M_PI * $x));
            $sum += $tap;
        }
        $this->taps = array_map(static fn (float $tap): float => $tap / $sum, $this->taps);
        $this->past = array_fill(0, $whole + self::TAPS - 1, 0.0);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float> as many
     */
    public function process(array $samples): array
    {
        $known = [...$this->past, ...$samples];
        $taps = array_reverse($this->taps);
        $out = [];
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $sum = 0.0;
            // Four taps at a time: the loop itself would cost as much as the sums.
            for ($k = 0, $at = $i; $k < self::TAPS; $k += 4, $at += 4) {
                $sum += $taps[$k] * $known[$at] + $taps[$k + 1] * $known[$at + 1] + $taps[$k + 2] * $known[$at + 2] + $taps[$k + 3] * $known[$at + 3];
            }
            $out[] = $sum;
        }
        $this->past = array_slice($known, count($samples));

        return $out;
    }
}
