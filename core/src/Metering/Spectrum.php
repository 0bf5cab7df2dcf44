<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\SampleDecoder;

/**
 * How the power of a sound is spread over frequency: mean square of each bin and side, so that all bins of a side add up to its
 * mean square.
 */
final readonly class Spectrum
{
    /**
     * @param  float  $binWidth  Hz; bin n lies around n times it
     * @param  list<float>  $left  mean square by bin
     * @param  list<float>  $right  as many
     */
    public function __construct(public float $binWidth, public array $left, public array $right)
    {
    }

    /** @return array{float, string, string} numbers packed: read again in a tenth of the time */
    public function __serialize(): array
    {
        return [$this->binWidth, pack('e*', ...$this->left), pack('e*', ...$this->right)];
    }

    /** @param  array{float, string, string}  $data */
    public function __unserialize(array $data): void
    {
        $this->binWidth = $data[0];
        $this->left = SampleDecoder::float64($data[1]);
        $this->right = SampleDecoder::float64($data[2]);
    }

    public static function silence(): self
    {
        return new self(1.0, [], []);
    }

    /** The same sound after a gain on each side. */
    public function after(float $left, float $right): self
    {
        return new self(
            $this->binWidth,
            array_map(static fn (float $power): float => $power * $left * $left, $this->left),
            array_map(static fn (float $power): float => $power * $right * $right, $this->right),
        );
    }

    /** Mean square over both sides between two frequencies in Hz. */
    public function between(float $from, float $to): float
    {
        $band = BandWeights::between($from, $to, $this->binWidth, count($this->left));

        return 0.5 * ($band->of($this->left) + $band->of($this->right));
    }

    /**
     * Mean square over both sides, by bin.
     *
     * @return list<float>
     */
    public function powers(): array
    {
        return array_map(static fn (float $left, float $right): float => 0.5 * ($left + $right), $this->left, $this->right);
    }
}
