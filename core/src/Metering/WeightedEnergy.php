<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Dsp\Filter\BiquadCascade;

/**
 * The energy of one side after {@see KWeighting}. What comes out of the filters is summed as it comes and kept nowhere: half of the
 * time of filtering a copy.
 */
final class WeightedEnergy
{
    /** @var list<float> coefficients of both sections: b0, b1, b2, a1, a2 */
    private readonly array $coefficients;

    /** @var array{float, float, float, float} */
    private array $state = [0.0, 0.0, 0.0, 0.0];

    public function __construct(int $sampleRate)
    {
        $coefficients = [];
        foreach (KWeighting::sections($sampleRate) as $section) {
            array_push($coefficients, $section->b0, $section->b1, $section->b2, $section->a1, $section->a2);
        }
        $this->coefficients = $coefficients;
    }

    /** Whether both go on alike where the same sound comes. */
    public function isLike(self $other): bool
    {
        foreach ($this->state as $i => $value) {
            if (abs($value - $other->state[$i]) > BiquadCascade::ALIKE) {
                return false;
            }
        }

        return true;
    }

    /** Whether nothing rings: silence stays silence. */
    public function isAtRest(): bool
    {
        return $this->state === [0.0, 0.0, 0.0, 0.0];
    }

    /**
     * The sum of squares of the next samples.
     *
     * @param  list<float>  $samples
     * @param  int  $from  index of the first
     * @param  int  $to  index behind the last
     */
    public function next(array $samples, int $from, int $to): float
    {
        [$pb0, $pb1, $pb2, $pa1, $pa2, $qb0, $qb1, $qb2, $qa1, $qa2] = $this->coefficients;
        [$p1, $p2, $q1, $q2] = $this->state;
        $energy = 0.0;
        for ($i = $from; $i < $to; ++$i) {
            $in = $samples[$i];
            $out = $pb0 * $in + $p1;
            $p1 = $pb1 * $in - $pa1 * $out + $p2;
            $p2 = $pb2 * $in - $pa2 * $out;
            $in = $qb0 * $out + $q1;
            $q1 = $qb1 * $out - $qa1 * $in + $q2;
            $q2 = $qb2 * $out - $qa2 * $in;
            $energy += $in * $in;
        }
        $this->state = [
            abs($p1) < BiquadCascade::NOTHING ? 0.0 : $p1, abs($p2) < BiquadCascade::NOTHING ? 0.0 : $p2,
            abs($q1) < BiquadCascade::NOTHING ? 0.0 : $q1, abs($q2) < BiquadCascade::NOTHING ? 0.0 : $q2,
        ];

        return $energy;
    }
}
