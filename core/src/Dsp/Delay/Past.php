<?php

declare(strict_types=1);

namespace Hafen\Dsp\Delay;

/** The last samples of one side, kept in the lists they came in: a long delay costs no more than a short one. */
final class Past
{
    /** @var list<list<float>> oldest first */
    private array $lists;

    private int $count;

    /** @param  int  $room  samples that are kept at the least */
    public function __construct(private int $room)
    {
        $this->lists = self::silence($room);
        $this->count = $room;
    }

    /** Keeps more samples, or fewer, from now on; before the first there was silence. */
    public function resize(int $room): void
    {
        $this->room = $room;
        if ($this->count < $room) {
            $this->lists = [...self::silence($room - $this->count), ...$this->lists];
            $this->count = $room;
        }
    }

    /** @param  list<float>  $samples */
    public function push(array $samples): void
    {
        while ($this->lists !== [] && $this->count - count($this->lists[0]) >= $this->room) {
            $this->count -= count(array_shift($this->lists));
        }
        $this->lists[] = $samples;
        $this->count += count($samples);
    }

    /**
     * Samples from a place on.
     *
     * @param  int  $ago  samples between the place and the end; at most the room and what was pushed last
     * @return list<float>
     */
    public function from(int $ago, int $frames): array
    {
        $skip = $this->count - $ago;
        $pieces = [];
        foreach ($this->lists as $samples) {
            $length = count($samples);
            if ($skip >= $length) {
                $skip -= $length;

                continue;
            }
            $taken = min($length - $skip, $frames);
            $pieces[] = $taken === $length ? $samples : array_slice($samples, $skip, $taken);
            $frames -= $taken;
            $skip = 0;
            if ($frames === 0) {
                break;
            }
        }

        return count($pieces) === 1 ? $pieces[0] : array_merge(...$pieces);
    }

    public function equals(self $other): bool
    {
        return $this->lists === $other->lists;
    }

    /** @return list<list<float>> */
    private static function silence(int $length): array
    {
        return $length > 0 ? [array_fill(0, $length, 0.0)] : [];
    }
}
