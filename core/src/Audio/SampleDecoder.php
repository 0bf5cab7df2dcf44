<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * Bytes of a file to samples between -1 and +1.
 *
 * Eight bytes are unpacked at a time and taken apart with shifts: `unpack` costs far more for each value
 * than the shifts do. Numbers too small for a normal 32-bit float come out as 0, so that no recursive
 * filter is fed denormals. Samples that are no numbers, infinite or beyond what 32 bits can say are read as silence.
 */
final class SampleDecoder
{
    /** What a 32-bit float can say. */
    private const LARGEST = 3.4028235e38;

    /** @var list<float>|null scale of each sign and exponent of a 32-bit float */
    private static ?array $floatScale = null;

    /**
     * How many samples of a range of bytes are no numbers, infinite, or beyond what 32 bits can say.
     */
    public static function unreadable(string $bytes, SampleFormat $format): int
    {
        $count = 0;
        if ($format === SampleFormat::Float64) {
            /** @var array<float> $values */
            $values = $bytes === '' ? [] : (unpack('e*', $bytes) ?: []);
            foreach ($values as $value) {
                $count += abs($value) <= self::LARGEST ? 0 : 1;
            }
        } elseif ($format === SampleFormat::Float32) {
            /** @var array<int> $words */
            $words = $bytes === '' ? [] : (unpack('V*', $bytes) ?: []);
            foreach ($words as $word) {
                $count += ($word & 0x7F800000) === 0x7F800000 ? 1 : 0;
            }
        }

        return $count;
    }

    /**
     * Interleaved samples of a range of bytes.
     *
     * @return list<float>
     */
    public static function decode(string $bytes, SampleFormat $format): array
    {
        $count = intdiv(strlen($bytes), $format->bytes());
        if ($format === SampleFormat::Float64) {
            return self::doubles($bytes);
        }
        // A multiple of 24 bytes is whole in every format: 8-byte words, 3-byte samples.
        $words = self::words(str_pad($bytes, intdiv(strlen($bytes) + 23, 24) * 24, "\0"));
        $samples = match ($format) {
            SampleFormat::Int8 => self::int8($words),
            SampleFormat::Int16 => self::int16($words),
            SampleFormat::Int24 => self::int24($words),
            SampleFormat::Int32 => self::int32($words),
            SampleFormat::Float32 => self::float32($words),
        };

        return count($samples) === $count ? $samples : array_slice($samples, 0, $count);
    }

    /** @return array<int> */
    private static function words(string $bytes): array
    {
        /** @var array<int> $words */
        $words = $bytes === '' ? [] : (unpack('P*', $bytes) ?: []);

        return $words;
    }

    /** @return list<float> */
    private static function doubles(string $bytes): array
    {
        /** @var array<float> $values */
        $values = $bytes === '' ? [] : (unpack('e*', $bytes) ?: []);

        $out = [];
        foreach ($values as $value) {
            $out[] = abs($value) <= self::LARGEST ? $value : 0.0;
        }

        return $out;
    }

    /**
     * @param  array<int>  $words
     * @return list<float>
     */
    private static function int8(array $words): array
    {
        $out = [];
        foreach ($words as $word) {
            for ($shift = 0; $shift < 64; $shift += 8) {
                $out[] = ((($word >> $shift) & 0xFF) - 128) * 0.0078125;
            }
        }

        return $out;
    }

    /**
     * @param  array<int>  $words
     * @return list<float>
     */
    private static function int16(array $words): array
    {
        $scale = 1.0 / 32768.0;
        $out = [];
        foreach ($words as $word) {
            $out[] = (($word << 48) >> 48) * $scale;
            $out[] = (($word << 32) >> 48) * $scale;
            $out[] = (($word << 16) >> 48) * $scale;
            $out[] = ($word >> 48) * $scale;
        }

        return $out;
    }

    /**
     * @param  array<int>  $words
     * @return list<float>
     */
    private static function int24(array $words): array
    {
        $scale = 1.0 / 8388608.0;
        $out = [];
        $a = $b = 0;
        $turn = 0;
        foreach ($words as $word) {
            if ($turn === 0) {
                $a = $word;
                $turn = 1;
            } elseif ($turn === 1) {
                $b = $word;
                $turn = 2;
            } else {
                $out[] = (($a << 40) >> 40) * $scale;
                $out[] = (($a << 16) >> 40) * $scale;
                $out[] = ((($a >> 48) & 0xFFFF) | ((($b << 56) >> 56) << 16)) * $scale;
                $out[] = (($b << 32) >> 40) * $scale;
                $out[] = (($b << 8) >> 40) * $scale;
                $out[] = ((($b >> 56) & 0xFF) | ((($word << 48) >> 48) << 8)) * $scale;
                $out[] = (($word << 24) >> 40) * $scale;
                $out[] = ($word >> 40) * $scale;
                $turn = 0;
            }
        }

        return $out;
    }

    /**
     * @param  array<int>  $words
     * @return list<float>
     */
    private static function int32(array $words): array
    {
        $scale = 1.0 / 2147483648.0;
        $out = [];
        foreach ($words as $word) {
            $out[] = (($word << 32) >> 32) * $scale;
            $out[] = ($word >> 32) * $scale;
        }

        return $out;
    }

    /**
     * IEEE 754 single precision: mantissa with its hidden bit, times the scale of sign and exponent.
     *
     * @param  array<int>  $words
     * @return list<float>
     */
    private static function float32(array $words): array
    {
        $scale = self::$floatScale ??= self::floatScale();
        $out = [];
        foreach ($words as $word) {
            $out[] = (($word & 0x7FFFFF) | 0x800000) * $scale[($word >> 23) & 0x1FF];
            $out[] = ((($word >> 32) & 0x7FFFFF) | 0x800000) * $scale[($word >> 55) & 0x1FF];
        }

        return $out;
    }

    /** @return list<float> */
    private static function floatScale(): array
    {
        $scale = [];
        for ($index = 0; $index < 512; ++$index) {
            $exponent = $index & 0xFF;
            $size = match ($exponent) {
                0 => 0.0,
                // Infinite, or no number.
                255 => 0.0,
                default => 2.0 ** ($exponent - 150),
            };
            $scale[] = $index > 255 ? -$size : $size;
        }

        return $scale;
    }
}
