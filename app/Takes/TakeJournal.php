<?php

declare(strict_types=1);

namespace App\Takes;

use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Printing\Take;

/**
 * What is being recorded, on the disk: the session and the track it is for, and its takes beside it. Locked by who records; what is not locked was
 * left by one that was killed, or waits to be put on its track.
 */
final class TakeJournal
{
    /** @param  resource  $lock  on its file */
    private function __construct(private readonly string $path, private $lock, public readonly int $session, public readonly RecordWish $wish)
    {
    }

    public static function begin(string $folder, int $session, RecordWish $wish): self
    {
        $path = "{$folder}/".bin2hex(random_bytes(8)).'.json';
        $lock = @fopen($path, 'c');
        $json = (string) json_encode(['session' => $session, ...$wish->toArray()]);
        if ($lock === false || ! flock($lock, LOCK_EX) || @fwrite($lock, $json) !== strlen($json) || ! fflush($lock)) {
            throw CannotRecord::noRoom($folder);
        }

        return new self($path, $lock, $session, $wish);
    }

    /** Takes over what nobody records any more; null where somebody does, or it is none. */
    public static function left(string $path): ?self
    {
        $lock = @fopen($path, 'r');
        if ($lock === false || ! flock($lock, LOCK_EX | LOCK_NB)) {
            return null;
        }
        $known = self::read($lock);
        if (! is_file($path) || $known === null) {
            fclose($lock);

            return null;
        }

        return new self($path, $lock, ...$known);
    }

    /** The channel of a recording in a session that is over, and not on its track yet; null where it runs, or is of another session. */
    public static function waitingIn(int $session, string $path): ?string
    {
        $file = @fopen($path, 'r');
        if ($file === false) {
            return null;
        }
        $known = self::read($file);
        $isOver = is_file(self::endedMark($path)) || flock($file, LOCK_SH | LOCK_NB);
        fclose($file);

        return $isOver && $known !== null && $known[0] === $session ? $known[1]->channel : null;
    }

    /**
     * @param  resource  $file
     * @return ?array{int, RecordWish} session and track; null where it is none
     */
    private static function read($file): ?array
    {
        /** @var mixed $known */
        $known = json_decode((string) stream_get_contents($file), true);

        return is_array($known) && is_int($known['session'] ?? null) && is_string($known['channel'] ?? null) && is_string($known['tap'] ?? null)
            ? [$known['session'], new RecordWish($known['channel'], $known['tap'])]
            : null;
    }

    private static function endedMark(string $path): string
    {
        return substr($path, 0, -5).'-ended';
    }

    /** Nothing more is recorded; what there is waits to be put on its track. */
    public function close(): void
    {
        // Without the mark it is found as well, as soon as nobody holds it.
        @touch(self::endedMark($this->path));
    }

    /** Where a take goes, by its number. */
    public function take(int $number): string
    {
        return substr($this->path, 0, -5).sprintf('-%05d.wav', $number);
    }

    /** @return list<Take> all there are, in the order they were played; those that were not ended are made whole */
    public function takes(): array
    {
        $takes = [];
        $base = substr($this->path, 0, -5);
        foreach (glob("{$base}-*.wav.*.part") ?: [] as $unfinished) {
            $path = (string) preg_replace('/\.[0-9a-f]+\.part$/', '', $unfinished);
            if (! WavWriter::rescue($unfinished, $path)) {
                @unlink($unfinished);
            }
        }
        foreach (glob("{$base}-*.wav") ?: [] as $path) {
            $reader = WavReader::open($path);
            $takes[] = new Take($path, $reader->header->broadcast->timeReference ?? 0, $reader->frames(), 0.0);
        }

        return $takes;
    }

    /** Leaves it to who looks for what is to be put on tracks. */
    public function release(): void
    {
        if (is_resource($this->lock)) {
            fclose($this->lock);
        }
    }

    /** All of it is on its track, or in the library. */
    public function end(): void
    {
        array_map(static fn (string $path): bool => @unlink($path), glob(substr($this->path, 0, -5).'-*') ?: []);
        @unlink($this->path);
        $this->release();
    }
}
