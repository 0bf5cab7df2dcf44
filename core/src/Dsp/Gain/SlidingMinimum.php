<?php

declare(strict_types=1);

namespace Hafen\Dsp\Gain;

/**
 * The smallest of the last W values, for each new one.
 *
 * The minimum over a span is the smaller of two minima over half of it, so the span doubles from pass to pass until it
 * reaches W: log2 W plain loops, which the JIT keeps fast (a queue of candidates needs fewer steps, but branches).
 */
final class SlidingMinimum
{
    /** @var list<float> the last W - 1 values */
    private array $history;

    public function __construct(private readonly int $window)
    {
        $this->history = [];
        $this->reset();
    }

    /** Nothing was heard yet: all values before were 1. */
    public function reset(): void
    {
        $this->history = $this->window > 1 ? array_fill(0, $this->window - 1, 1.0) : [];
    }

    /**
     * @param  list<float>  $input
     * @return list<float>
     */
    public function process(array $input): array
    {
        $values = [...$this->history, ...$input];
        $this->history = array_slice($values, count($input));
        $span = 1;
        while (2 * $span <= $this->window) {
            $values = self::pass($values, $span);
            $span *= 2;
        }

        return $span < $this->window ? self::pass($values, $this->window - $span) : $values;
    }

    /**
     * @param  list<float>  $values
     * @return list<float> the smaller of each value and the one so many places before it
     */
    private static function pass(array $values, int $back): array
    {
        $smaller = [];
        for ($i = $back, $n = count($values); $i < $n; ++$i) {
            $earlier = $values[$i - $back];
            $value = $values[$i];
            $smaller[] = $earlier < $value ? $earlier : $value;
        }

        return $smaller;
    }
}
