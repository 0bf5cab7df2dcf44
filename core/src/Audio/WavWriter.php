<?php

declare(strict_types=1);

namespace Hafen\Audio;

use LogicException;

/**
 * Writes a WAV file block by block in constant memory; becomes RF64 by itself when it passes 4 GiB. It lies under another name
 * until it is whole: nobody finds half a file.
 *
 * Room for the 64-bit sizes is kept in a "JUNK" chunk and turned into "ds64" only when needed
 * (EBU Tech 3306, section 3.5). More than two channels and more than 16 integer bits use the extensible format chunk.
 */
final class WavWriter
{
    private const RIFF_LIMIT = 0xFFFFFFFF;

    private const INTEGER_GUID = "\x01\x00\x00\x00\x00\x00\x10\x00\x80\x00\x00\xAA\x00\x38\x9B\x71";

    private const FLOAT_GUID = "\x03\x00\x00\x00\x00\x00\x10\x00\x80\x00\x00\xAA\x00\x38\x9B\x71";

    private readonly SampleEncoder $encoder;

    private int $dataBytes = 0;

    private readonly int $dataStart;

    private bool $open = true;

    private readonly string $unfinished;

    /**
     * @param  resource  $stream
     * @param  int  $riffLimit  sizes above this make it RF64; smaller only in tests
     */
    private function __construct(
        private readonly string $path,
        string $unfinished,
        private $stream,
        public readonly AudioFormat $format,
        ?BroadcastExtension $broadcast,
        ?Dither $dither,
        private readonly int $riffLimit,
    ) {
        $this->unfinished = $unfinished;
        $this->encoder = new SampleEncoder($format->samples, $dither);
        $head = 'RIFF'.pack('V', 0).'WAVE'
            .self::chunk('JUNK', str_repeat("\0", 28))
            .self::chunk('fmt ', self::formatChunk($format));
        if ($broadcast !== null) {
            $head .= self::chunk('bext', $broadcast->toBytes());
        }
        $head .= 'data'.pack('V', 0);
        $this->put($head);
        $this->dataStart = strlen($head);
    }

    /** @throws UnableToWriteAudioFile */
    public static function create(
        string $path,
        AudioFormat $format,
        ?BroadcastExtension $broadcast = null,
        ?Dither $dither = null,
        int $riffLimit = self::RIFF_LIMIT,
    ): self {
        $folder = dirname($path);
        // A device or a pipe is written to as it is.
        $unfinished = file_exists($path) && ! is_file($path) ? $path : $path.'.'.bin2hex(random_bytes(6)).'.part';
        $stream = is_dir($folder) && is_writable($folder) && ! is_dir($path) ? @fopen($unfinished, 'wb') : false;
        if ($stream === false) {
            throw UnableToWriteAudioFile::open($path);
        }

        return new self($path, $unfinished, $stream, $format, $broadcast, $dither, $riffLimit);
    }

    /**
     * Adds frames.
     *
     * @param  list<list<float>>  $sides  one list per channel of the format, all of one length
     *
     * @throws UnableToWriteAudioFile
     */
    public function write(array $sides): void
    {
        if (count($sides) !== $this->format->channels) {
            throw new LogicException('Got '.count($sides)." sides for {$this->format->channels} channels.");
        }
        $samples = $sides[0];
        if (count($sides) > 1) {
            $samples = [];
            for ($i = 0, $frames = count($sides[0]); $i < $frames; ++$i) {
                foreach ($sides as $side) {
                    $samples[] = $side[$i];
                }
            }
        }
        $bytes = $this->encoder->encode($samples);
        $this->put($bytes);
        $this->dataBytes += strlen($bytes);
    }

    /** Samples that were above full scale and had to be clipped so far. */
    public function clipped(): int
    {
        return $this->encoder->clipped();
    }

    /** Writes the sizes, closes the file and gives it its name. @throws UnableToWriteAudioFile */
    public function close(): void
    {
        if (! $this->open) {
            return;
        }
        if (($this->dataBytes & 1) === 1) {
            $this->put("\0");
        }
        self::writeSizes($this->stream, $this->dataStart, $this->dataBytes, intdiv($this->dataBytes, $this->format->bytesPerFrame()), $this->riffLimit);
        $this->open = false;
        if (! fclose($this->stream) || ($this->unfinished !== $this->path && ! @rename($this->unfinished, $this->path))) {
            throw UnableToWriteAudioFile::write($this->path, $this->dataBytes);
        }
    }

    /**
     * Makes a whole file of one whose writer was killed: with all that had been written, and that is known by its own path then.
     *
     * @param  string  $unfinished  what was being written
     * @return bool false where nothing had been written yet, or it is none of ours
     *
     * @throws UnableToWriteAudioFile
     */
    public static function rescue(string $unfinished, string $path): bool
    {
        $stream = @fopen($unfinished, 'r+b');
        if ($stream === false) {
            throw UnableToWriteAudioFile::open($unfinished);
        }
        $head = (string) fread($stream, 4096);
        $formatAt = strpos($head, 'fmt ');
        $dataAt = strpos($head, 'data'.pack('V', 0));
        $frame = $formatAt === false ? [] : (array) unpack('v', substr($head, $formatAt + 20, 2));
        $bytesPerFrame = is_int($frame[1] ?? null) ? $frame[1] : 0;
        $size = (int) (fstat($stream)['size'] ?? 0);
        if ($dataAt === false || $bytesPerFrame === 0 || $size < $dataAt + 8 + $bytesPerFrame) {
            fclose($stream);

            return false;
        }
        $frames = intdiv($size - $dataAt - 8, $bytesPerFrame);
        // What was cut off in the middle of a frame.
        ftruncate($stream, max(0, $dataAt + 8 + $frames * $bytesPerFrame));
        self::writeSizes($stream, $dataAt + 8, $frames * $bytesPerFrame, $frames, self::RIFF_LIMIT);
        if (! fclose($stream) || ! @rename($unfinished, $path)) {
            throw UnableToWriteAudioFile::write($path, $size);
        }

        return true;
    }

    /** Closes and removes an unfinished file. */
    public function discard(): void
    {
        if ($this->open) {
            $this->open = false;
            fclose($this->stream);
        }
        if ($this->unfinished !== $this->path) {
            @unlink($this->unfinished);
        }
    }

    private function put(string $bytes): void
    {
        if ($bytes !== '' && @fwrite($this->stream, $bytes) !== strlen($bytes)) {
            throw UnableToWriteAudioFile::write($this->path, $this->dataBytes);
        }
    }

    /**
     * Writes how long it is where the header has room for that.
     *
     * @param  resource  $stream
     */
    private static function writeSizes($stream, int $dataStart, int $dataBytes, int $frames, int $riffLimit): void
    {
        $riff = $dataStart - 8 + $dataBytes + ($dataBytes & 1);
        $fields = $riff > $riffLimit
            ? [0 => 'RF64'.pack('V', 0xFFFFFFFF), 12 => 'ds64'.pack('V', 28).pack('PPP', $riff, $dataBytes, $frames).pack('V', 0), $dataStart - 4 => pack('V', 0xFFFFFFFF)]
            : [4 => pack('V', $riff), $dataStart - 4 => pack('V', $dataBytes)];
        foreach ($fields as $at => $bytes) {
            fseek($stream, $at);
            if (@fwrite($stream, $bytes) !== strlen($bytes)) {
                throw UnableToWriteAudioFile::write('', $dataBytes);
            }
        }
    }

    private static function chunk(string $id, string $body): string
    {
        return $id.pack('V', strlen($body)).$body.((strlen($body) & 1) === 1 ? "\0" : '');
    }

    private static function formatChunk(AudioFormat $format): string
    {
        $bits = $format->samples->bytes() * 8;
        $float = $format->samples->isFloat();
        $extensible = $format->channels > 2 || (! $float && $bits > 16);
        $body = pack(
            'vvVVvv',
            $extensible ? 0xFFFE : ($float ? 3 : 1),
            $format->channels,
            $format->sampleRate,
            $format->sampleRate * $format->bytesPerFrame(),
            $format->bytesPerFrame(),
            $bits,
        );
        if (! $extensible) {
            return $float ? $body.pack('v', 0) : $body;
        }
        $speakers = match ($format->channels) {
            1 => 0x4,
            2 => 0x3,
            default => 0,
        };

        return $body.pack('vvV', 22, $bits, $speakers).($float ? self::FLOAT_GUID : self::INTEGER_GUID);
    }
}
