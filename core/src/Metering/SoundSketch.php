<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\SampleDecoder;

/**
 * Short pieces of a sound from all over its length, by which it can be told later how it goes along with another: both are sketched
 * at the same places.
 */
final class SoundSketch
{
    private const PIECES = 24;

    private const LENGTH = 64;

    /** Samples one sound can be behind the other: 4 ms at 3 kHz, a good metre. */
    private const FURTHEST = 12;

    /** @var list<float> */
    private array $samples = [];

    private int $seen = 0;

    /** @param  int  $total  samples that will come */
    public function __construct(private readonly int $total)
    {
    }

    /** @param  list<float>  $samples */
    public function add(array $samples): void
    {
        foreach ($samples as $sample) {
            if (self::isKept($this->seen++, $this->total)) {
                $this->samples[] = $sample;
            }
        }
    }

    /** Packed, as most that read what a survey found do not look into it: numbers of 64 bits. */
    public function read(): string
    {
        return pack('e*', ...$this->samples);
    }

    /**
     * How two sounds go along where they do most: a microphone that stands further off hears the same a little later.
     *
     * @param  string  $one  as {@see read()} gives it
     * @param  string  $other  likewise
     * @return ?float -1 to 1; null where one of them is silent, or they are not of the same length
     */
    public static function correlation(string $one, string $other): ?float
    {
        if (strlen($one) !== strlen($other)) {
            return null;
        }
        $one = SampleDecoder::float64($one);
        $other = SampleDecoder::float64($other);
        $best = null;
        for ($lag = 0; $lag <= self::FURTHEST; ++$lag) {
            foreach ($lag === 0 ? [self::at($one, $other, 0)] : [self::at($one, $other, $lag), self::at($other, $one, $lag)] as $found) {
                if ($found !== null && ($best === null || abs($found) > abs($best))) {
                    $best = $found;
                }
            }
        }

        return $best;
    }

    /**
     * @param  list<float>  $one
     * @param  list<float>  $other
     */
    private static function at(array $one, array $other, int $lag): ?float
    {
        $aa = $bb = $ab = 0.0;
        for ($piece = 0, $n = count($one); $piece < $n; $piece += self::LENGTH) {
            for ($i = $piece, $end = min($n, $piece + self::LENGTH) - $lag; $i < $end; ++$i) {
                $a = $one[$i];
                $b = $other[$i + $lag];
                $aa += $a * $a;
                $bb += $b * $b;
                $ab += $a * $b;
            }
        }

        return $aa > TapReading::SILENCE && $bb > TapReading::SILENCE ? $ab / sqrt($aa * $bb) : null;
    }

    private static function isKept(int $at, int $total): bool
    {
        $piece = max(self::LENGTH, intdiv($total, self::PIECES));

        return $at % $piece < self::LENGTH;
    }
}
