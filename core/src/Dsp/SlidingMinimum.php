<?php

declare(strict_types=1);

namespace Hafen\Dsp;

/**
 * The smallest of the last W values, for each new one.
 *
 * Source: the ascending-minima queue (R. Harter 2001): each value enters and leaves a queue once.
 */
final class SlidingMinimum
{
    /** @var list<float> */
    private array $values;

    /** @var list<int> */
    private array $places;

    private int $head = 0;

    private int $size = 0;

    private int $now = 0;

    public function __construct(private readonly int $window)
    {
        $this->values = array_fill(0, $window + 1, 0.0);
        $this->places = array_fill(0, $window + 1, 0);
    }

    public function reset(): void
    {
        $this->head = $this->size = $this->now = 0;
    }

    /**
     * @param  list<float>  $input
     * @return list<float>
     */
    public function process(array $input): array
    {
        $values = $this->values;
        $places = $this->places;
        $this->values = $this->places = [];
        $head = $this->head;
        $size = $this->size;
        $now = $this->now;
        $window = $this->window;
        $room = $window + 1;
        for ($i = 0, $n = count($input); $i < $n; ++$i) {
            $value = $input[$i];
            if ($size > 0 && $places[$head] <= $now - $window) {
                $head = $head + 1 === $room ? 0 : $head + 1;
                --$size;
            }
            $tail = $head + $size;
            if ($tail >= $room) {
                $tail -= $room;
            }
            while ($size > 0) {
                $last = $tail === 0 ? $room - 1 : $tail - 1;
                if ($values[$last] < $value) {
                    break;
                }
                $tail = $last;
                --$size;
            }
            $values[$tail] = $value;
            $places[$tail] = $now;
            ++$size;
            ++$now;
            $input[$i] = $values[$head];
        }
        $this->values = $values;
        $this->places = $places;
        $this->head = $head;
        $this->size = $size;
        $this->now = $now;

        return $input;
    }
}
