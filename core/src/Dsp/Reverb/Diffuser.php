<?php

declare(strict_types=1);

namespace Hafen\Dsp\Reverb;

/**
 * All-passes in series that smear one side of a path without colouring it.
 *
 * Source: M. R. Schroeder, "Natural sounding artificial reverberation", JAES 1962.
 */
final class Diffuser
{
    /** @var list<list<float>> */
    private array $rings = [];

    /** @var list<int> */
    private array $writeIndexes = [];

    /** @param  list<float>  $milliseconds  length of each all-pass */
    public function __construct(private readonly array $milliseconds, private readonly float $strength, private readonly int $sampleRate)
    {
        $this->reset();
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    public function process(array $samples): array
    {
        foreach ($this->rings as $k => $ring) {
            $this->rings[$k] = [];
            [$samples, $this->rings[$k], $this->writeIndexes[$k]] = self::allPass($samples, $ring, $this->writeIndexes[$k], $this->strength);
        }

        return $samples;
    }

    public function reset(): void
    {
        $this->rings = $this->writeIndexes = [];
        foreach ($this->milliseconds as $milliseconds) {
            $this->rings[] = array_fill(0, (int) round($milliseconds * $this->sampleRate / 1000.0), 0.0);
            $this->writeIndexes[] = 0;
        }
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $ring
     * @return array{list<float>, list<float>, int}
     */
    private static function allPass(array $x, array $ring, int $writeIndex, float $g): array
    {
        $length = count($ring);
        for ($i = 0, $n = count($x); $i < $n; ++$i) {
            $old = $ring[$writeIndex];
            $inner = $x[$i] + $g * $old + 1e-280 - 1e-280;
            $ring[$writeIndex] = $inner;
            $x[$i] = $old - $g * $inner;
            if (++$writeIndex === $length) {
                $writeIndex = 0;
            }
        }

        return [$x, $ring, $writeIndex];
    }
}
