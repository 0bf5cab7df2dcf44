<?php

declare(strict_types=1);

namespace Hafen\Note;

/**
 * Reads standard MIDI files of format 0 and 1.
 *
 * Source: Standard MIDI Files 1.0, the MIDI Association.
 */
final class MidiReader
{
    public const MOST_BYTES = 8_000_000;

    private const MOST_EVENTS = 400_000;

    private int $at = 0;

    private int $events = 0;

    /** Ticks of a quarter note in the file. */
    private int $division = 480;

    /** @var array<int, float> tempo in BPM by tick of the file */
    private array $tempos = [];

    private function __construct(private readonly string $bytes)
    {
    }

    /** @throws UnreadableMidiFile naming the byte */
    public static function read(string $bytes): MidiSong
    {
        if (strlen($bytes) > self::MOST_BYTES) {
            throw UnreadableMidiFile::tooLarge(strlen($bytes), self::MOST_BYTES);
        }

        return (new self($bytes))->song();
    }

    private function song(): MidiSong
    {
        $this->chunk('MThd', 0);
        $length = $this->number(4);
        if ($length < 6) {
            throw UnreadableMidiFile::at(4, "the header has {$length} bytes; 6 are needed");
        }
        $format = $this->number(2);
        if ($format > 1) {
            throw UnreadableMidiFile::at(8, "stands format {$format}; 0 and 1 are read");
        }
        $tracks = $this->number(2);
        $this->division = $this->number(2);
        if ($this->division === 0 || $this->division >= 0x8000) {
            throw UnreadableMidiFile::at(12, 'time is counted in frames, not in quarter notes');
        }
        $this->at = 8 + $length;
        $parts = [];
        for ($n = 0; $n < $tracks; ++$n) {
            if ($this->at === strlen($this->bytes)) {
                throw UnreadableMidiFile::at($this->at, "the file ends after {$n} of {$tracks} tracks");
            }
            array_push($parts, ...$this->track($n + 1));
        }
        ksort($this->tempos);

        return new MidiSong($parts, $this->tempos === [] ? null : $this->tempos[array_key_first($this->tempos)], count(array_unique($this->tempos)) > 1);
    }

    /** @return list<MidiPart> one for each channel that has notes */
    private function track(int $number): array
    {
        $start = $this->at;
        while (! $this->isChunk('MTrk')) {
            // Chunks of other kinds are to be passed over.
            $this->need(8);
            $this->at += 4;
            $this->at += $this->number(4);
            if ($this->at >= strlen($this->bytes)) {
                throw UnreadableMidiFile::at($start, "track {$number} is missing");
            }
        }
        $this->at += 4;
        $length = $this->number(4);
        $end = $this->at + $length;
        if ($end > strlen($this->bytes)) {
            throw UnreadableMidiFile::at($this->at - 4, "track {$number} is said to have {$length} bytes; ".(strlen($this->bytes) - $this->at).' are left');
        }
        $name = '';
        $tick = $status = 0;
        $collected = [];
        while ($this->at < $end) {
            $tick += $this->variable($end);
            if (++$this->events > self::MOST_EVENTS) {
                throw UnreadableMidiFile::at($this->at, 'are more than '.self::MOST_EVENTS.' events');
            }
            $this->within($end);
            $byte = ord($this->bytes[$this->at]);
            if ($byte === 0xFF) {
                ++$this->at;
                $this->within($end);
                $type = ord($this->bytes[$this->at++]);
                $text = $this->text($this->variable($end), $end);
                if ($type === 0x2F) {
                    break;
                }
                $name = $type === 0x03 && $name === '' ? $text : $name;
                $this->tempo($type, $text, $tick);
            } elseif ($byte === 0xF0 || $byte === 0xF7) {
                ++$this->at;
                $this->text($this->variable($end), $end);
            } else {
                $status = $this->status($byte, $status);
                $collected[] = [$tick, $status, ...$this->data($status, $end)];
            }
        }
        $this->at = $end;

        return $this->parts($collected, self::clean($name), $number);
    }

    private function tempo(int $type, string $text, int $tick): void
    {
        if ($type === 0x51 && strlen($text) === 3) {
            $microseconds = (ord($text[0]) << 16) | (ord($text[1]) << 8) | ord($text[2]);
            if ($microseconds > 0) {
                $this->tempos[$tick] = round(60_000_000.0 / $microseconds, 3);
            }
        }
    }

    /** The status of an event; one that begins with data has that of the one before. */
    private function status(int $byte, int $before): int
    {
        if ($byte < 0x80) {
            return $before >= 0x80 ? $before : throw UnreadableMidiFile::at($this->at, 'stands data where an event begins');
        }
        if ($byte >= 0xF0) {
            throw UnreadableMidiFile::at($this->at, sprintf('stands 0x%02X, which no event in a file begins with', $byte));
        }
        ++$this->at;

        return $byte;
    }

    /** @return array{int, int} */
    private function data(int $status, int $end): array
    {
        $data = [0, 0];
        $count = in_array($status & 0xF0, [0xC0, 0xD0], true) ? 1 : 2;
        for ($i = 0; $i < $count; ++$i) {
            $this->within($end);
            $data[$i] = ord($this->bytes[$this->at]);
            if ($data[$i] > 127) {
                throw UnreadableMidiFile::at($this->at, sprintf('stands 0x%02X where a value up to 127 belongs', $data[$i]));
            }
            ++$this->at;
        }

        return $data;
    }

    /**
     * @param  list<array{int, int, int, int}>  $events  tick, status, and two bytes of data
     * @return list<MidiPart>
     */
    private function parts(array $events, string $name, int $number): array
    {
        $notes = $controls = $down = [];
        $last = 0;
        foreach ($events as [$tick, $status, $one, $two]) {
            $last = $tick;
            $channel = $status & 0x0F;
            $kind = $status & 0xF0;
            if ($kind === 0x90 && $two > 0) {
                self::end($notes, $down, $channel, $one, $tick);
                $down[$channel][$one] = [$tick, $two];
            } elseif ($kind === 0x80 || $kind === 0x90) {
                self::end($notes, $down, $channel, $one, $tick);
            } elseif ($kind === 0xB0) {
                $controls[$channel][] = [$tick, $one, $two];
            } elseif ($kind === 0xE0) {
                $controls[$channel][] = [$tick, NoteControl::BEND, ($two << 7 | $one) - 8192];
            }
        }
        // Notes that are never let go end with the track.
        foreach ($down as $channel => $keys) {
            foreach (array_keys($keys) as $key) {
                self::end($notes, $down, $channel, $key, $last);
            }
        }
        $parts = [];
        ksort($notes);
        foreach ($notes as $channel => $ofChannel) {
            $parts[] = new MidiPart(
                ($name === '' ? "Track {$number}" : $name).(count($notes) > 1 ? ' '.($channel + 1) : ''),
                array_map(fn (array $note): Note => new Note($this->ticks($note[0]), max(1, $this->ticks($note[1]) - $this->ticks($note[0])), $note[2], $note[3]), $ofChannel),
                array_map(fn (array $control): NoteControl => new NoteControl($this->ticks($control[0]), $control[1], $control[2]), $controls[$channel] ?? []),
            );
        }

        return $parts;
    }

    /**
     * @param  array<int, list<array{int, int, int, int}>>  $notes
     * @param  array<int, array<int, array{int, int}>>  $down
     */
    private static function end(array &$notes, array &$down, int $channel, int $key, int $tick): void
    {
        if (isset($down[$channel][$key])) {
            [$at, $velocity] = $down[$channel][$key];
            $notes[$channel][] = [$at, $tick, $key, $velocity];
            unset($down[$channel][$key]);
        }
    }

    private function ticks(int $tick): int
    {
        return (int) round($tick * Ticks::PER_BEAT / $this->division);
    }

    private static function clean(string $name): string
    {
        $text = mb_check_encoding($name, 'UTF-8') ? $name : mb_convert_encoding($name, 'UTF-8', 'ISO-8859-1');

        return mb_substr(trim((string) preg_replace('/[\p{C}\s]+/u', ' ', $text)), 0, 100);
    }

    private function chunk(string $name, int $at): void
    {
        if (! $this->isChunk($name)) {
            throw UnreadableMidiFile::at($at, "\"{$name}\" is missing");
        }
        $this->at += 4;
    }

    private function isChunk(string $name): bool
    {
        $this->need(8);

        return substr($this->bytes, $this->at, 4) === $name;
    }

    private function number(int $bytes): int
    {
        $this->need($bytes);
        $number = 0;
        for ($i = 0; $i < $bytes; ++$i) {
            $number = $number << 8 | ord($this->bytes[$this->at++]);
        }

        return $number;
    }

    /** A number in groups of seven bits, four of them at most. */
    private function variable(int $end): int
    {
        $number = 0;
        for ($i = 0; $i < 4; ++$i) {
            $this->within($end);
            $byte = ord($this->bytes[$this->at++]);
            $number = $number << 7 | $byte & 0x7F;
            if ($byte < 0x80) {
                return $number;
            }
        }

        throw UnreadableMidiFile::at($this->at - 4, 'stands a number of more than four bytes');
    }

    private function text(int $length, int $end): string
    {
        if ($this->at + $length > $end) {
            throw UnreadableMidiFile::at($this->at, "{$length} bytes are announced; ".($end - $this->at).' are left in the track');
        }
        $text = substr($this->bytes, $this->at, $length);
        $this->at += $length;

        return $text;
    }

    private function within(int $end): void
    {
        if ($this->at >= $end) {
            throw UnreadableMidiFile::at($this->at, 'the track ends in the middle of an event');
        }
    }

    private function need(int $bytes): void
    {
        if ($this->at + $bytes > strlen($this->bytes)) {
            throw UnreadableMidiFile::at(strlen($this->bytes), 'the file ends too soon');
        }
    }
}
