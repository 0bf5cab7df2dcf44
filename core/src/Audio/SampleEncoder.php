<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * Samples to the bytes of a file. Fixed-point formats clip at full scale and count what they clipped;
 * 16 and 24 bit are dithered when a {@see Dither} is given.
 */
final class SampleEncoder
{
    private int $clipped = 0;

    public function __construct(
        private readonly SampleFormat $format,
        private readonly ?Dither $dither = null,
    ) {
    }

    /** Samples clipped so far. */
    public function clipped(): int
    {
        return $this->clipped;
    }

    /** @param  list<float>  $samples interleaved */
    public function encode(array $samples): string
    {
        if ($samples === []) {
            return '';
        }

        return match ($this->format) {
            SampleFormat::Float32 => pack('g*', ...$samples),
            SampleFormat::Float64 => pack('e*', ...$samples),
            SampleFormat::Int8 => pack('C*', ...$this->quantise($samples, 128)),
            SampleFormat::Int16 => pack('v*', ...$this->quantise($samples)),
            SampleFormat::Int24 => $this->threeBytes($this->quantise($samples)),
            SampleFormat::Int32 => pack('V*', ...$this->quantise($samples)),
        };
    }

    /**
     * @param  list<float>  $samples
     * @return list<int>
     */
    private function quantise(array $samples, int $offset = 0): array
    {
        $steps = $this->format->steps();
        $highest = $steps - 1;
        $lowest = -$steps;
        $noise = $this->dither?->next(count($samples)) ?? [];
        $dithered = $noise !== [];
        $clipped = 0;
        $out = [];
        foreach ($samples as $i => $sample) {
            $value = $sample * $steps;
            // What counts as a clip is the signal at or beyond the edge, not the dither on top of it.
            if ($value > $highest + 0.5 || $value < $lowest - 0.5) {
                ++$clipped;
            }
            if ($dithered) {
                $value += $noise[$i];
            }
            // Range first: a wild value has no integer.
            $whole = $value >= $highest ? $highest : ($value <= $lowest ? $lowest : (int) floor($value + 0.5));
            $out[] = $whole + $offset;
        }
        $this->clipped += $clipped;

        return $out;
    }

    /** @param  list<int>  $values */
    private function threeBytes(array $values): string
    {
        // Four samples make twelve bytes: three 32-bit words instead of twelve single bytes.
        $count = count($values);
        while (count($values) % 4 !== 0) {
            $values[] = 0;
        }
        $words = [];
        for ($i = 0, $n = count($values); $i < $n; $i += 4) {
            $a = $values[$i] & 0xFFFFFF;
            $b = $values[$i + 1] & 0xFFFFFF;
            $c = $values[$i + 2] & 0xFFFFFF;
            $d = $values[$i + 3] & 0xFFFFFF;
            $words[] = $a | (($b & 0xFF) << 24);
            $words[] = ($b >> 8) | (($c & 0xFFFF) << 16);
            $words[] = ($c >> 16) | ($d << 8);
        }

        return substr(pack('V*', ...$words), 0, $count * 3);
    }
}
