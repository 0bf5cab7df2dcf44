<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Decibel;
use Hafen\Audio\SampleDecoder;

/**
 * What a tap carried over a range of time: largest sample, mean square over both sides, samples above full scale.
 *
 * `peakAt` and `firstOver` are positions in the session, where they were asked for. Levels are in dBFS; RMS of a full-scale sine reads -3.01 dB (no AES17 reference). null is silence.
 */
final readonly class TapReading
{
    /** Samples per gain reduction value. */
    public const REDUCTION_STEP = 4096;

    /** Samples over which the quietest range is averaged. */
    public const FLOOR_STEP = 8192;

    /** Mean square below which a signal counts as digital silence. */
    public const SILENCE = 1e-12;

    /**
     * @param  ?float  $floor  mean square of the quietest range that is not silent, where it was asked for
     * @param  array<int, float>  $reductions  most gain reduction in dB by range, where it was asked for and something reduces
     */
    public function __construct(
        public float $peak,
        public float $meanSquare,
        public int $overs,
        public float $gainReduction = 0.0,
        public ?int $peakAt = null,
        public ?int $firstOver = null,
        public array $reductions = [],
        public ?float $floor = null,
    ) {
    }

    /** This and what came after it, as long, as one: levels, overs and gain reduction. */
    public function and(self $later): self
    {
        return new self(max($this->peak, $later->peak), ($this->meanSquare + $later->meanSquare) / 2, $this->overs + $later->overs, max($this->gainReduction, $later->gainReduction));
    }

    /** The same levels, with nothing that is counted. */
    public function withoutOvers(): self
    {
        return new self($this->peak, $this->meanSquare, 0, $this->gainReduction);
    }

    /** @return array{float, float, int, float, ?int, ?int, ?float, list<int>, string} gain reductions as keys and packed numbers: read again in a tenth of the time */
    public function __serialize(): array
    {
        return [
            $this->peak, $this->meanSquare, $this->overs, $this->gainReduction, $this->peakAt, $this->firstOver, $this->floor,
            // Mostly one after another from the first on, which need no keys.
            array_is_list($this->reductions) ? [] : array_keys($this->reductions),
            pack('e*', ...array_values($this->reductions)),
        ];
    }

    /** @param  array{float, float, int, float, ?int, ?int, ?float, list<int>, string}  $data */
    public function __unserialize(array $data): void
    {
        [$this->peak, $this->meanSquare, $this->overs, $this->gainReduction, $this->peakAt, $this->firstOver, $this->floor] = $data;
        $reductions = SampleDecoder::float64($data[8]);
        $this->reductions = $data[7] === [] ? $reductions : array_combine($data[7], $reductions);
    }

    public function peakLevel(): ?float
    {
        return Decibel::fromGain($this->peak);
    }

    public function rmsLevel(): ?float
    {
        return Decibel::fromPower($this->meanSquare);
    }

    /** Of the quietest range, where nothing but noise is left; null where none was found. */
    public function floorLevel(): ?float
    {
        return $this->floor === null ? null : Decibel::fromPower($this->floor);
    }

    /** How far the peak rises above the average, in dB; null is silence. A sine has 3.01. */
    public function crest(): ?float
    {
        $peak = $this->peakLevel();
        $rms = $this->rmsLevel();

        return $peak === null || $rms === null ? null : $peak - $rms;
    }
}
