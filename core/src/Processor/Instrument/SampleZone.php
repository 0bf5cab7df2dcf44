<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

/** A recording of the sampler, and the keys and velocities it is played for. */
final readonly class SampleZone
{
    /**
     * @param  list<float>  $samples  at the session's rate
     * @param  int  $root  the key at which it sounds as it was recorded
     * @param  ?array{int, int}  $loop  first sample of the loop, and the one after its last; null plays to the end
     */
    public function __construct(public array $samples, public int $root, public int $lowest, public int $highest, public int $softest, public int $hardest, public ?array $loop)
    {
    }

    /** @param  float  $velocity  0 to 1 */
    public function plays(int $key, float $velocity): bool
    {
        $struck = (int) round($velocity * 127.0);

        return $key >= $this->lowest && $key <= $this->highest && $struck >= $this->softest && $struck <= $this->hardest;
    }
}
