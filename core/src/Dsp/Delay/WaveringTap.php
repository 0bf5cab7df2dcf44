<?php

declare(strict_types=1);

namespace Hafen\Dsp\Delay;

/**
 * What one side of a path heard a moving while ago, read between samples.
 *
 * Read by Hermite's cubic through four samples (Catmull-Rom, from memory): a whole number of samples comes out to the bit.
 */
final class WaveringTap
{
    /** @var list<float> the last samples, the newest at the end */
    private array $past;

    /** @var list<float> those and the block at work */
    private array $line = [];

    /** @param  int  $room  the longest delay in samples */
    public function __construct(private readonly int $room)
    {
        $this->past = array_fill(0, $room + 4, 0.0);
    }

    /**
     * Takes in a block.
     *
     * @param  list<float>  $samples
     */
    public function hear(array $samples): void
    {
        $this->line = [...$this->past, ...$samples];
        $this->past = array_slice($this->line, -($this->room + 4));
    }

    /**
     * The block heard last, each sample so late.
     *
     * @param  list<float>  $delays  samples, from 1 to the room
     * @return list<float>
     */
    public function read(array $delays): array
    {
        $line = $this->line;
        for ($i = 0, $now = $this->room + 4, $n = count($delays); $i < $n; ++$i, ++$now) {
            $delay = $delays[$i];
            $whole = (int) $delay;
            $part = $delay - $whole;
            $at = $now - $whole;
            $a = $line[$at + 1];
            $b = $line[$at];
            $c = $line[$at - 1];
            $d = $line[$at - 2];
            $delays[$i] = $b + 0.5 * $part * ($c - $a + $part * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $part * (3.0 * ($b - $c) + $d - $a)));
        }

        return $delays;
    }

    public function reset(): void
    {
        $this->past = array_fill(0, $this->room + 4, 0.0);
        $this->line = [];
    }
}
