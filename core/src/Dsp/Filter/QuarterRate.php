<?php

declare(strict_types=1);

namespace Hafen\Dsp\Filter;

/**
 * Every fourth sample of a sound of which only the lowest part is wanted, after a mean of four samples is taken three times.
 *
 * Source: CIC filter of order three (Hogenauer 1981), worked as a filter of ten taps. It has three zeros at each multiple of the new rate, so
 * that little is folded back near 0 Hz.
 */
final class QuarterRate
{
    /** What earlier samples give to the output that comes next: of the four before it, of the four before those. */
    private float $before = 0.0;

    private float $early = 0.0;

    private float $earlier = 0.0;

    /** @var list<float> fewer than four that came last */
    private array $rest = [];

    /** Gain at a frequency, as a share of the rate that comes in. */
    public static function gain(float $frequency): float
    {
        return (cos(M_PI * $frequency) * cos(2.0 * M_PI * $frequency)) ** 3;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float> one for each four
     */
    public function process(array $samples): array
    {
        $x = $this->rest === [] ? $samples : [...$this->rest, ...$samples];
        $before = $this->before;
        $early = $this->early;
        $earlier = $this->earlier;
        $out = [];
        for ($i = 0, $end = count($x) - 3; $i < $end; $i += 4) {
            $a = $x[$i];
            $b = $x[$i + 1];
            $c = $x[$i + 2];
            $d = $x[$i + 3];
            $out[] = 0.015625 * (10.0 * $a + 6.0 * $b + 3.0 * $c + $d + $before + $earlier);
            $before = 6.0 * $a + 10.0 * $b + 12.0 * ($c + $d);
            $earlier = $early;
            $early = $c + 3.0 * $d;
        }
        $this->before = $before;
        $this->early = $early;
        $this->earlier = $earlier;
        $this->rest = $i === count($x) ? [] : array_slice($x, $i);

        return $out;
    }
}
