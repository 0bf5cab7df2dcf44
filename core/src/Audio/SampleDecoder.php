<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * Bytes of a file to samples between -1 and +1.
 *
 * Eight bytes are unpacked at a time and taken apart with shifts: `unpack` costs far more for each value
 * than the shifts do, and least where each value has a name of one letter. Numbers too small for a normal 32-bit float come out as 0, so that no recursive
 * filter is fed denormals. Samples that are no numbers, infinite or beyond what 32 bits can say are read as silence.
 */
final class SampleDecoder
{
    /** What a 32-bit float can say. */
    private const LARGEST = 3.4028235e38;

    /** Words that are unpacked at once: a multiple of 3, so that 24-bit samples are whole, and fewer than there are letters. */
    private const CHUNK = 126;

    /** @var array<string, string> format of a whole chunk by code of its values */
    private static array $chunkFormats = [];

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
     * Whether samples of a range of bytes may lie between the highest a 16-bit file can say and full scale: quicker than to decode them.
     */
    public static function mayBeFull(string $bytes, SampleFormat $format): bool
    {
        // Sample by sample, those whose highest bytes are lower.
        $lower = match ($format) {
            SampleFormat::Int16 => '[^\xff\x00\x01].|.[^\x7f\x80]',
            SampleFormat::Int24 => '.[^\xff\x00\x01].|..[^\x7f\x80]',
            SampleFormat::Float32 => '..[^\x7f\x80].|...[^\x3f\xbf]',
            default => null,
        };

        return $lower === null || preg_match("/\\G(?:{$lower})*+\\z/s", $bytes) !== 1;
    }

    /**
     * Numbers of 64 bits, to the bit.
     *
     * @return list<float>
     */
    public static function float64(string $bytes): array
    {
        $out = [];
        /** @var array<float> $values */
        foreach (self::unpacked($bytes, 'e') as $values) {
            foreach ($values as $value) {
                $out[] = $value;
            }
        }

        return $out;
    }

    /**
     * Interleaved samples of a range of bytes.
     *
     * @return list<float>
     */
    public static function decode(string $bytes, SampleFormat $format): array
    {
        return self::sides($bytes, $format, 1)[0];
    }

    /**
     * The samples of a range of bytes, by channel.
     *
     * @param  int  $channels  that are interleaved
     * @return non-empty-list<list<float>>
     */
    public static function sides(string $bytes, SampleFormat $format, int $channels): array
    {
        $count = intdiv(strlen($bytes), $format->bytes() * $channels);
        $sides = match ($format) {
            SampleFormat::Float64 => self::doubles($bytes, $channels),
            SampleFormat::Int8 => self::deinterleaved(self::int8(self::chunks($bytes)), $channels),
            SampleFormat::Int16 => $channels === 2 ? self::int16Pairs(self::chunks($bytes)) : self::deinterleaved(self::int16(self::chunks($bytes)), $channels),
            SampleFormat::Int24 => $channels === 2 ? self::int24Pairs(self::chunks($bytes)) : self::deinterleaved(self::int24(self::chunks($bytes)), $channels),
            SampleFormat::Int32 => self::deinterleaved(self::int32(self::chunks($bytes)), $channels),
            SampleFormat::Float32 => $channels === 2 ? self::float32Pairs(self::chunks($bytes)) : self::deinterleaved(self::float32(self::chunks($bytes)), $channels),
        };
        if (count($sides[0]) > $count) {
            foreach ($sides as $channel => $side) {
                $sides[$channel] = array_slice($side, 0, $count);
            }
        }

        return $sides;
    }

    /**
     * Whole numbers of eight bytes each, in chunks; where the bytes end within one, zeros follow.
     *
     * @return list<array<int>>
     */
    private static function chunks(string $bytes): array
    {
        // A multiple of 24 bytes is whole in every format: 8-byte words, 3-byte samples.
        $bytes = str_pad($bytes, intdiv(strlen($bytes) + 23, 24) * 24, "\0");
        /** @var list<array<int>> $chunks */
        $chunks = self::unpacked($bytes, 'P');

        return $chunks;
    }

    /**
     * @param  string  $code  of eight bytes
     * @return list<array<mixed>>
     */
    private static function unpacked(string $bytes, string $code): array
    {
        $format = self::$chunkFormats[$code] ??= implode('/', array_map(static fn (int $i): string => $code.chr(128 + $i), range(0, self::CHUNK - 1)));
        $chunks = [];
        $length = 8 * self::CHUNK;
        for ($at = 0, $end = strlen($bytes); $at + $length <= $end; $at += $length) {
            $chunks[] = unpack($format, $bytes, $at) ?: [];
        }
        if ($at < $end) {
            $chunks[] = unpack("{$code}*", $bytes, $at) ?: [];
        }

        return $chunks;
    }

    /**
     * @param  list<float>  $samples
     * @return non-empty-list<list<float>>
     */
    private static function deinterleaved(array $samples, int $channels): array
    {
        if ($channels === 1) {
            return [$samples];
        }
        $count = count($samples) - count($samples) % $channels;
        $sides = [];
        for ($channel = 0; $channel < $channels; ++$channel) {
            $side = [];
            for ($i = $channel; $i < $count; $i += $channels) {
                $side[] = $samples[$i];
            }
            $sides[] = $side;
        }
        assert($sides !== []);

        return $sides;
    }

    /** @return non-empty-list<list<float>> */
    private static function doubles(string $bytes, int $channels): array
    {
        $out = [];
        /** @var array<float> $values */
        foreach (self::unpacked($bytes, 'e') as $values) {
            foreach ($values as $value) {
                $out[] = abs($value) <= self::LARGEST ? $value : 0.0;
            }
        }

        return self::deinterleaved($out, $channels);
    }

    /**
     * @param  list<array<int>>  $chunks
     * @return list<float>
     */
    private static function int8(array $chunks): array
    {
        $out = [];
        foreach ($chunks as $words) {
            foreach ($words as $word) {
                for ($shift = 0; $shift < 64; $shift += 8) {
                    $out[] = ((($word >> $shift) & 0xFF) - 128) * 0.0078125;
                }
            }
        }

        return $out;
    }

    /**
     * @param  list<array<int>>  $chunks
     * @return list<float>
     */
    private static function int16(array $chunks): array
    {
        $scale = 1.0 / 32768.0;
        $out = [];
        foreach ($chunks as $words) {
            foreach ($words as $word) {
                $out[] = (($word << 48) >> 48) * $scale;
                $out[] = (($word << 32) >> 48) * $scale;
                $out[] = (($word << 16) >> 48) * $scale;
                $out[] = ($word >> 48) * $scale;
            }
        }

        return $out;
    }

    /**
     * @param  list<array<int>>  $chunks
     * @return array{list<float>, list<float>}
     */
    private static function int16Pairs(array $chunks): array
    {
        $scale = 1.0 / 32768.0;
        $left = $right = [];
        foreach ($chunks as $words) {
            foreach ($words as $word) {
                $left[] = (($word << 48) >> 48) * $scale;
                $right[] = (($word << 32) >> 48) * $scale;
                $left[] = (($word << 16) >> 48) * $scale;
                $right[] = ($word >> 48) * $scale;
            }
        }

        return [$left, $right];
    }

    /**
     * @param  list<array<int>>  $chunks
     * @return list<float>
     */
    private static function int24(array $chunks): array
    {
        $scale = 1.0 / 8388608.0;
        $out = [];
        $a = $b = 0;
        $turn = 0;
        foreach ($chunks as $words) {
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
        }

        return $out;
    }

    /**
     * @param  list<array<int>>  $chunks
     * @return array{list<float>, list<float>}
     */
    private static function int24Pairs(array $chunks): array
    {
        $scale = 1.0 / 8388608.0;
        $left = $right = [];
        $a = $b = 0;
        $turn = 0;
        foreach ($chunks as $words) {
            foreach ($words as $word) {
                if ($turn === 0) {
                    $a = $word;
                    $turn = 1;
                } elseif ($turn === 1) {
                    $b = $word;
                    $turn = 2;
                } else {
                    $left[] = (($a << 40) >> 40) * $scale;
                    $right[] = (($a << 16) >> 40) * $scale;
                    $left[] = ((($a >> 48) & 0xFFFF) | ((($b << 56) >> 56) << 16)) * $scale;
                    $right[] = (($b << 32) >> 40) * $scale;
                    $left[] = (($b << 8) >> 40) * $scale;
                    $right[] = ((($b >> 56) & 0xFF) | ((($word << 48) >> 48) << 8)) * $scale;
                    $left[] = (($word << 24) >> 40) * $scale;
                    $right[] = ($word >> 40) * $scale;
                    $turn = 0;
                }
            }
        }

        return [$left, $right];
    }

    /**
     * @param  list<array<int>>  $chunks
     * @return list<float>
     */
    private static function int32(array $chunks): array
    {
        $scale = 1.0 / 2147483648.0;
        $out = [];
        foreach ($chunks as $words) {
            foreach ($words as $word) {
                $out[] = (($word << 32) >> 32) * $scale;
                $out[] = ($word >> 32) * $scale;
            }
        }

        return $out;
    }

    /**
     * IEEE 754 single precision: mantissa with its hidden bit, times the scale of sign and exponent.
     *
     * @param  list<array<int>>  $chunks
     * @return list<float>
     */
    private static function float32(array $chunks): array
    {
        $scale = self::$floatScale ??= self::floatScale();
        $out = [];
        foreach ($chunks as $words) {
            foreach ($words as $word) {
                $out[] = (($word & 0x7FFFFF) | 0x800000) * $scale[($word >> 23) & 0x1FF];
                $out[] = ((($word >> 32) & 0x7FFFFF) | 0x800000) * $scale[($word >> 55) & 0x1FF];
            }
        }

        return $out;
    }

    /**
     * @param  list<array<int>>  $chunks
     * @return array{list<float>, list<float>}
     */
    private static function float32Pairs(array $chunks): array
    {
        $scale = self::$floatScale ??= self::floatScale();
        $left = $right = [];
        foreach ($chunks as $words) {
            foreach ($words as $word) {
                $left[] = (($word & 0x7FFFFF) | 0x800000) * $scale[($word >> 23) & 0x1FF];
                $right[] = ((($word >> 32) & 0x7FFFFF) | 0x800000) * $scale[($word >> 55) & 0x1FF];
            }
        }

        return [$left, $right];
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
