<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

use Hafen\Hardware\MicrophoneRefused;

/**
 * The sound of a browser's microphone on its way from a page to the engine: a ring of 32-bit floats in a file, written in pieces by one process
 * and read by others. The file begins with a head of 64 bytes, see {@see head()}; samples follow, frame n at n modulo {@see FRAMES}.
 */
final class MicrophonePipe
{
    /** Frames the ring holds, 5.5 s at 48 kHz. */
    public const FRAMES = 262_144;

    /** Frames a piece may have. */
    public const LONGEST_PIECE = 65_536;

    private const HEAD = 64;

    private const FORMAT = 'Vrate/Pwritten/Pat/ecaptured/CisHeard/eheard/Vcheck';

    /** @var resource|null */
    private $file = null;

    public function __construct(private readonly string $path)
    {
    }

    /**
     * Puts a piece behind the one before it. What was lost in between is silent, what comes again is passed over.
     *
     * @param  string  $id  16 letters, of the capture; a new one takes over with its first piece
     * @param  int  $first  number of its first frame
     * @param  string  $samples  32-bit floats, the lowest byte first
     * @param  float  $captured  when its first frame was captured, in seconds since 1970
     * @param  ?float  $heard  sample of the session that was heard then; null while nothing plays
     *
     * @throws MicrophoneRefused when another page took over, or it cannot be written
     */
    public function write(string $id, int $rate, int $first, string $samples, float $captured, ?float $heard): void
    {
        $file = $this->open('c+b');
        if ($file === null || ! flock($file, LOCK_EX)) {
            throw MicrophoneRefused::notWritten();
        }
        try {
            $known = $this->readHead($file);
            if ($known !== null && $known->id !== $id && $first > 0) {
                throw MicrophoneRefused::takenOver();
            }
            $written = $known?->id === $id ? $known->written : $first;
            $frames = intdiv(strlen($samples), 4);
            $lost = min(self::FRAMES, max(0, $first - $written));
            $this->put($file, $first - $lost, str_repeat("\0", 4 * $lost));
            $this->put($file, $first, $samples);
            $values = pack('VPPeCe', $rate, max($written, $first + $frames), $first, $captured, $heard === null ? 0 : 1, $heard ?? 0.0);
            fseek($file, 0);
            $head = str_pad($id.$values.pack('V', crc32($id.$values)), self::HEAD, "\0");
            if (fwrite($file, $head) !== self::HEAD || ! fflush($file)) {
                throw MicrophoneRefused::notWritten();
            }
        } finally {
            flock($file, LOCK_UN);
        }
    }

    /** What is known of it now; null where no page ever sent anything. */
    public function head(): ?MicrophoneHead
    {
        $file = $this->open('rb');
        // Who writes is not waited for: a head that is just being written does not fit its check sum.
        for ($try = 0; $file !== null && $try < 3; ++$try) {
            $head = $this->readHead($file);
            if ($head !== null) {
                return $head;
            }
        }

        return null;
    }

    /** @return list<float> silence where nothing came, or it is gone already */
    public function read(MicrophoneHead $head, int $from, int $frames): array
    {
        $start = max($from, 0, $head->written - self::FRAMES + self::LONGEST_PIECE);
        $end = min($from + $frames, $head->written);
        if ($this->file === null || $end <= $start) {
            return array_fill(0, $frames, 0.0);
        }
        $bytes = '';
        for ($at = $start; $at < $end; $at += $part) {
            $part = max(1, min($end - $at, self::FRAMES - $at % self::FRAMES));
            fseek($this->file, self::HEAD + 4 * ($at % self::FRAMES));
            $bytes .= str_pad((string) fread($this->file, 4 * $part), 4 * $part, "\0");
        }
        /** @var array<int, float> $samples */
        $samples = unpack('g*', $bytes);
        // A page may send anything.
        $sound = array_map(static fn (float $sample): float => is_finite($sample) ? $sample : 0.0, array_values($samples));

        return [...array_fill(0, $start - $from, 0.0), ...$sound, ...array_fill(0, $from + $frames - $end, 0.0)];
    }

    /** @param  resource  $file */
    private function put($file, int $from, string $samples): void
    {
        $frames = intdiv(strlen($samples), 4);
        for ($done = 0; $done < $frames; $done += $part) {
            $at = ($from + $done) % self::FRAMES;
            $part = min($frames - $done, self::FRAMES - $at);
            fseek($file, self::HEAD + 4 * $at);
            if (fwrite($file, substr($samples, 4 * $done, 4 * $part)) !== 4 * $part) {
                throw MicrophoneRefused::notWritten();
            }
        }
    }

    /** @param  resource  $file */
    private function readHead($file): ?MicrophoneHead
    {
        fseek($file, 0);
        $bytes = (string) fread($file, self::HEAD);
        if (strlen($bytes) < self::HEAD) {
            return null;
        }
        $id = substr($bytes, 0, 16);
        /** @var array{rate: int, written: int, at: int, captured: float, isHeard: int, heard: float, check: int} $known */
        $known = unpack(self::FORMAT, $bytes, 16);

        return $known['check'] !== crc32(substr($bytes, 0, 53)) ? null
            : new MicrophoneHead($id, $known['rate'], $known['written'], $known['at'], $known['captured'], $known['isHeard'] === 1 ? $known['heard'] : null);
    }

    /** @return resource|null */
    private function open(string $mode)
    {
        if ($this->file === null) {
            $file = is_file($this->path) || $mode !== 'rb' ? @fopen($this->path, $mode) : false;
            if ($file === false) {
                return null;
            }
            // What others write is to be seen at once.
            stream_set_read_buffer($file, 0);
            $this->file = $file;
        }

        return $this->file;
    }
}
