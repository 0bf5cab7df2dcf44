<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * What stands in front of the samples of a WAV file, checked against the file it was read from.
 *
 * Sources: RIFF/WAVE (Microsoft, IBM 1991), WAVEFORMATEXTENSIBLE, RF64 (EBU Tech 3306), bext (EBU Tech 3285).
 */
final readonly class WavHeader
{
    private const PCM = 1;

    private const FLOAT = 3;

    private const EXTENSIBLE = 0xFFFE;

    private const MOST_CHANNELS = 64;

    /** Chunks before the samples that are too many to be honest. */
    private const MOST_CHUNKS = 10_000;

    public function __construct(
        public AudioFormat $format,
        public int $frames,
        public int $dataStart,
        public ?BroadcastExtension $broadcast,
    ) {
    }

    /**
     * Reads the header of an open file.
     *
     * @param  resource  $stream
     *
     * @throws UnreadableAudioFile naming what is wrong and at which byte
     */
    public static function read($stream, string $path): self
    {
        $size = (int) (fstat($stream)['size'] ?? 0);
        if ($size === 0) {
            throw UnreadableAudioFile::empty($path);
        }
        $start = (string) fread($stream, 12);
        $form = substr($start, 0, 4);
        if ($form !== 'RIFF' && $form !== 'RF64') {
            throw UnreadableAudioFile::notWave($path, self::printable($form));
        }
        if (strlen($start) < 12) {
            throw UnreadableAudioFile::at($path, strlen($start), 'The file ends inside its first 12 bytes');
        }
        if (substr($start, 8, 4) !== 'WAVE') {
            throw UnreadableAudioFile::at($path, 8, 'A RIFF file, but its kind is "'.self::printable(substr($start, 8, 4)).'", not "WAVE"');
        }

        $format = $broadcast = $longDataSize = null;
        $at = 12;
        for ($chunk = 0; $chunk < self::MOST_CHUNKS; ++$chunk) {
            if ($at + 8 > $size) {
                throw UnreadableAudioFile::at($path, $at, $format === null ? 'The file ends before its "fmt " chunk' : 'The file ends before its "data" chunk');
            }
            fseek($stream, $at);
            $head = (string) fread($stream, 8);
            $id = substr($head, 0, 4);
            $length = self::int32($head, 4);
            $body = $at + 8;

            if ($id === 'data') {
                if ($format === null) {
                    throw UnreadableAudioFile::at($path, $at, 'The "data" chunk comes before any "fmt " chunk');
                }
                if ($length === 0xFFFFFFFF && $longDataSize !== null) {
                    $length = $longDataSize;
                }

                return new self($format, self::framesOf($path, $format, $length, $body, $size), $body, $broadcast);
            }
            if ($body + $length > $size) {
                throw UnreadableAudioFile::at($path, $at, 'Chunk "'.self::printable($id)."\" says {$length} bytes, but the file has ".($size - $body).' left');
            }
            if ($id === 'fmt ') {
                $format = self::format($path, $at, (string) fread($stream, max(1, min($length, 64))));
            } elseif ($id === 'bext') {
                $broadcast = BroadcastExtension::fromBytes((string) fread($stream, max(1, min($length, 1 << 20))));
            } elseif ($id === 'ds64' && $length >= 16) {
                $longDataSize = self::int64((string) fread($stream, 16), 8);
            }
            $at = $body + $length + ($length & 1);
        }
        throw UnreadableAudioFile::at($path, $at, 'More than '.self::MOST_CHUNKS.' chunks before the samples');
    }

    private static function framesOf(string $path, AudioFormat $format, int $length, int $body, int $size): int
    {
        $there = $size - $body;
        if ($length < 0 || $length > $there) {
            throw UnreadableAudioFile::at($path, $body, "Truncated: the \"data\" chunk says {$length} bytes, but {$there} follow");
        }
        if ($length === 0) {
            throw UnreadableAudioFile::at($path, $body, 'The "data" chunk holds no samples');
        }
        $frame = $format->bytesPerFrame();
        if ($length % $frame !== 0) {
            throw UnreadableAudioFile::at($path, $body, "The \"data\" chunk has {$length} bytes, not a whole number of {$frame}-byte frames");
        }

        return intdiv($length, $frame);
    }

    private static function format(string $path, int $at, string $body): AudioFormat
    {
        if (strlen($body) < 16) {
            throw UnreadableAudioFile::at($path, $at, 'The "fmt " chunk has '.strlen($body).' bytes; 16 are needed');
        }
        $tag = self::int16($body, 0);
        $channels = self::int16($body, 2);
        $rate = self::int32($body, 4);
        $align = self::int16($body, 12);
        $bits = self::int16($body, 14);
        if ($tag === self::EXTENSIBLE) {
            if (strlen($body) < 40) {
                throw UnreadableAudioFile::at($path, $at + 8, 'An extensible "fmt " chunk needs 40 bytes, this has '.strlen($body));
            }
            $tag = self::int16($body, 24);
        }
        if ($channels < 1 || $channels > self::MOST_CHANNELS) {
            throw UnreadableAudioFile::at($path, $at + 10, "{$channels} channels; 1 to ".self::MOST_CHANNELS.' are read');
        }
        if ($rate < 4000 || $rate > 768_000) {
            throw UnreadableAudioFile::at($path, $at + 12, "A sample rate of {$rate} Hz; 4000 to 768000 are read");
        }
        $samples = match (true) {
            $tag === self::PCM && $bits === 8 => SampleFormat::Int8,
            $tag === self::PCM && $bits === 16 => SampleFormat::Int16,
            $tag === self::PCM && $bits === 24 => SampleFormat::Int24,
            $tag === self::PCM && $bits === 32 => SampleFormat::Int32,
            $tag === self::FLOAT && $bits === 32 => SampleFormat::Float32,
            $tag === self::FLOAT && $bits === 64 => SampleFormat::Float64,
            default => throw UnreadableAudioFile::at($path, $at + 8, "Coding {$tag} with {$bits} bits; integer PCM of 8, 16, 24, 32 bits and float of 32, 64 are read"),
        };
        $format = new AudioFormat($rate, $channels, $samples);
        if ($align !== $format->bytesPerFrame()) {
            throw UnreadableAudioFile::at($path, $at + 20, "Mislabelled: frames of {$align} bytes, but {$channels} channels of {$bits} bits are {$format->bytesPerFrame()}");
        }

        return $format;
    }

    private static function int16(string $bytes, int $at): int
    {
        return ord($bytes[$at]) | (ord($bytes[$at + 1]) << 8);
    }

    private static function int32(string $bytes, int $at): int
    {
        return self::int16($bytes, $at) | (self::int16($bytes, $at + 2) << 16);
    }

    private static function int64(string $bytes, int $at): int
    {
        return self::int32($bytes, $at) | (self::int32($bytes, $at + 4) << 32);
    }

    private static function printable(string $bytes): string
    {
        return (string) preg_replace('/[^\x20-\x7E]/', '?', $bytes);
    }
}
