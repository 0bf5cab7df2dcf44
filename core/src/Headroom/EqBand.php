<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorSpec;

/**
 * A band of an equaliser: what lies under its bell, or on the side of its shelf.
 *
 * An equaliser has a band X where it has the parameters "X-frequency" and "X-q".
 */
final readonly class EqBand
{
    /** @param  string  $type  "low-pass", "band-pass" or "high-pass": the filter that lets through what the band works on */
    private function __construct(public string $id, public string $type, public float $frequency, public float $q)
    {
    }

    public static function of(ProcessorSpec $spec, ParameterValues $values, string $id): ?self
    {
        if ($spec->parameter("{$id}-frequency") === null || $spec->parameter("{$id}-q") === null) {
            return null;
        }
        $type = match ($id) {
            'low-shelf' => 'low-pass',
            'high-shelf' => 'high-pass',
            default => 'band-pass',
        };

        return new self($id, $type, $values->number("{$id}-frequency"), $values->number("{$id}-q"));
    }

    /** @return list<self> */
    public static function all(ProcessorSpec $spec, ParameterValues $values): array
    {
        $bands = [];
        foreach ($spec->parameters as $parameter) {
            if (str_ends_with($parameter->id, '-q')) {
                $bands[] = self::of($spec, $values, substr($parameter->id, 0, -2));
            }
        }

        return array_values(array_filter($bands));
    }

    public function filter(int $sampleRate): BiquadCoefficients
    {
        return match ($this->type) {
            'low-pass' => BiquadCoefficients::lowPass($this->frequency, $this->q, $sampleRate),
            'high-pass' => BiquadCoefficients::highPass($this->frequency, $this->q, $sampleRate),
            default => BiquadCoefficients::bandPass($this->frequency, $this->q, $sampleRate),
        };
    }
}
