<?php

declare(strict_types=1);

namespace Hafen\Note;

/**
 * Writes standard MIDI files of format 1: a track with the tempo, and one for each part, on MIDI channel 1.
 *
 * Source: Standard MIDI Files 1.0, the MIDI Association.
 */
final class MidiWriter
{
    /** @param  list<array{string, list<NoteClip>}>  $parts  name and clips of each */
    public static function write(array $parts, float $tempo): string
    {
        $microseconds = (int) round(60_000_000.0 / $tempo);
        $tracks = [self::track([[0, 0, "\xFF\x51\x03".substr(pack('N', $microseconds), 1)]])];
        foreach ($parts as [$name, $clips]) {
            $tracks[] = self::track([[0, 0, "\xFF\x03".self::variable(strlen($name)).$name], ...self::events($clips)]);
        }

        return 'MThd'.pack('Nnnn', 6, 1, count($tracks), Ticks::PER_BEAT).implode('', $tracks);
    }

    /**
     * @param  list<NoteClip>  $clips
     * @return list<array{int, int, string}> tick, rank among those of the same tick, bytes
     */
    private static function events(array $clips): array
    {
        // A schedule by ticks: 60 BPM at as many samples a second as a quarter note has ticks.
        $schedule = NoteSchedule::of($clips, new Ticks(60.0, Ticks::PER_BEAT));

        return array_map(static fn (NoteEvent $event): array => [$event->at, $event->kind->value, match (true) {
            $event->isOn() => chr(0x90).chr($event->key).chr((int) round($event->value * 127.0)),
            $event->isOff() => chr(0x80).chr($event->key).chr(64),
            $event->key === NoteControl::BEND => chr(0xE0).chr((int) $event->value + 8192 & 0x7F).chr((int) $event->value + 8192 >> 7),
            default => chr(0xB0).chr($event->key).chr((int) $event->value),
        }], $schedule->events);
    }

    /** @param  list<array{int, int, string}>  $events */
    private static function track(array $events): string
    {
        usort($events, static fn (array $one, array $other): int => [$one[0], $one[1]] <=> [$other[0], $other[1]]);
        $bytes = '';
        $tick = 0;
        foreach ($events as [$at, , $event]) {
            $bytes .= self::variable($at - $tick).$event;
            $tick = $at;
        }
        $bytes .= "\x00\xFF\x2F\x00";

        return 'MTrk'.pack('N', strlen($bytes)).$bytes;
    }

    private static function variable(int $number): string
    {
        $bytes = chr($number & 0x7F);
        while (($number >>= 7) > 0) {
            $bytes = chr($number & 0x7F | 0x80).$bytes;
        }

        return $bytes;
    }
}
