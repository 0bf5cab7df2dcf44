<?php

declare(strict_types=1);

use Hafen\Note\MidiReader;
use Hafen\Note\MidiWriter;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteControl;
use Hafen\Note\UnreadableMidiFile;
use Hafen\Tests\Support\Reference;

/** Notes that touch, overlap with other keys and lie on odd ticks, with a pedal and a bend. */
function melody(): NoteClip
{
    return (new NoteClip('c1', 0, 4 * 3840, [], [new NoteControl(100, NoteControl::SUSTAIN, 127), new NoteControl(480, NoteControl::BEND, -8192), new NoteControl(500, NoteControl::BEND, 8191), new NoteControl(2000, NoteControl::SUSTAIN, 0)]))
        ->withNotes([new Note(0, 960, 60, 100), new Note(0, 480, 64, 1), new Note(480, 1, 64, 127), new Note(961, 2879, 67, 64), new Note(15000, 200, 0, 5), new Note(15001, 99, 127, 90)]);
}

/** @param  list<int>  $bytes */
function midiBytes(array $bytes): string
{
    return implode('', array_map(chr(...), $bytes));
}

/** A file of one track with these bytes in it. */
function midiFile(string $track, int $format = 0, int $tracks = 1, int $division = 480): string
{
    return 'MThd'.pack('Nnnn', 6, $format, $tracks, $division).'MTrk'.pack('N', strlen($track)).$track;
}

// Source: python3-mido of Debian, which reads and writes standard MIDI files.
it('writes files another program reads note for note', function (): void {
    $path = (string) tempnam('/tmp', 'hafen');
    file_put_contents($path, MidiWriter::write([['Bells: Ø', [melody()]], ['Empty', []]], 96.0));
    $read = Reference::python(<<<'PY'
        import mido
        song = mido.MidiFile(data["path"], charset="utf-8")
        tracks = []
        for track in song.tracks:
            at, events = 0, []
            for message in track:
                at += message.time
                if message.type == "set_tempo": events.append([at, "tempo", round(mido.tempo2bpm(message.tempo), 3)])
                elif message.type == "note_on": events.append([at, "on", message.note, message.velocity])
                elif message.type == "note_off": events.append([at, "off", message.note])
                elif message.type == "control_change": events.append([at, "control", message.control, message.value])
                elif message.type == "pitchwheel": events.append([at, "bend", message.pitch])
            tracks.append([track.name, events])
        print(json.dumps([song.type, song.ticks_per_beat, tracks]))
        PY, ['path' => $path]);
    unlink($path);
    expect($read)->toEqual([1, 960, [
        ['', [[0, 'tempo', 96.0]]],
        ['Bells: Ø', [
            [0, 'on', 60, 100], [0, 'on', 64, 1], [100, 'control', 64, 127], [480, 'off', 64], [480, 'bend', -8192], [480, 'on', 64, 127], [481, 'off', 64], [500, 'bend', 8191],
            [960, 'off', 60], [961, 'on', 67, 64], [2000, 'control', 64, 0], [3840, 'off', 67], [15000, 'on', 0, 5], [15001, 'on', 127, 90], [15100, 'off', 127], [15200, 'off', 0],
        ]],
        ['Empty', []],
    ]]);
});

it('reads files another program writes, of both formats, with running status, system messages and several channels', function (int $format): void {
    $path = (string) tempnam('/tmp', 'hafen');
    Reference::python(<<<'PY'
        import mido
        song = mido.MidiFile(type=data["format"], ticks_per_beat=480)
        track = mido.MidiTrack(); song.tracks.append(track)
        track.append(mido.MetaMessage("track_name", name="Keys"))
        track.append(mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(140)))
        track.append(mido.MetaMessage("time_signature", numerator=3, denominator=4))
        track.append(mido.Message("sysex", data=[1, 2, 3]))
        track.append(mido.Message("program_change", program=5))
        track.append(mido.Message("note_on", note=60, velocity=90, time=0))
        track.append(mido.Message("note_on", note=62, velocity=80, time=240, channel=9))
        track.append(mido.Message("note_on", note=60, velocity=0, time=240))
        track.append(mido.Message("control_change", control=64, value=127, time=10))
        track.append(mido.Message("pitchwheel", pitch=1000, time=10))
        track.append(mido.Message("note_off", note=62, velocity=10, time=220, channel=9))
        track.append(mido.Message("note_on", note=72, velocity=1, time=30))
        if data["format"] == 1:
            other = mido.MidiTrack(); song.tracks.append(other)
            other.append(mido.Message("note_on", note=40, velocity=100, time=480))
            other.append(mido.Message("note_off", note=40, time=960))
        song.save(data["path"])
        print("null")
        PY, ['path' => $path, 'format' => $format]);
    $song = MidiReader::read((string) file_get_contents($path));
    unlink($path);
    $parts = array_map(static fn ($part): array => [$part->name, array_map(static fn (Note $note): array => [$note->at, $note->length, $note->key, $note->velocity], $part->notes)], $song->parts);
    // 480 ticks of the file are 960 here; what is never let go ends with the track.
    expect($song->tempo)->toEqualWithDelta(140.0, 1e-3)->and($song->changesTempo)->toBeFalse()
        ->and($parts)->toBe([['Keys 1', [[0, 960, 60, 90], [1500, 1, 72, 1]]], ['Keys 10', [[480, 960, 62, 80]]], ...($format === 1 ? [['Track 2', [[960, 1920, 40, 100]]]] : [])])
        ->and(array_map(static fn (NoteControl $control): array => [$control->at, $control->controller, $control->value], $song->parts[0]->controls))->toBe([[980, 64, 127], [1000, NoteControl::BEND, 1000]]);
})->with([0, 1]);

it('reads back what it writes', function (): void {
    $song = MidiReader::read(MidiWriter::write([['Bells', [melody()]]], 123.4));
    expect($song->tempo)->toEqualWithDelta(123.4, 1e-3)->and($song->parts)->toHaveCount(1)->and($song->parts[0]->clip('c1'))->toEqual(melody());
});

it('refuses what is broken, and says at which byte', function (string $bytes, string $why): void {
    expect(fn () => MidiReader::read($bytes))->toThrow(UnreadableMidiFile::class, $why);
})->with([
    'nothing' => ['', 'at byte 0 the file ends too soon'],
    'text' => ['<html>not music</html>', 'at byte 0 "MThd" is missing'],
    'a cut header' => [substr(midiFile(''), 0, 11), 'at byte 11 the file ends too soon'],
    'format 2' => [midiFile("\x00\xFF\x2F\x00", 2), 'at byte 8 stands format 2; 0 and 1 are read'],
    'frames' => [midiFile("\x00\xFF\x2F\x00", 0, 1, 0xE728), 'at byte 12 time is counted in frames, not in quarter notes'],
    'a track too few' => [midiFile("\x00\xFF\x2F\x00", 1, 2), 'at byte 26 the file ends after 1 of 2 tracks'],
    'a track longer than the file' => [substr(midiFile(str_repeat("\x00\x90\x40\x40", 9)), 0, -5), 'at byte 18 track 1 is said to have 36 bytes; 31 are left'],
    'data without a status' => [midiFile("\x00\x40\x40"), 'at byte 23 stands data where an event begins'],
    'a status as data' => [midiFile("\x00\x90\x40\x90"), 'at byte 25 stands 0x90 where a value up to 127 belongs'],
    'an event that is cut' => [midiFile("\x00\x90\x40"), 'at byte 25 the track ends in the middle of an event'],
    'a text longer than the track' => [midiFile("\x00\xFF\x03\x7Fab"), 'at byte 26 127 bytes are announced; 2 are left in the track'],
    'a number without end' => [midiFile("\xFF\xFF\xFF\xFF\xFF"), 'at byte 22 stands a number of more than four bytes'],
    'what only goes over a wire' => [midiFile("\x00\xF8"), 'at byte 23 stands 0xF8, which no event in a file begins with'],
    'too large' => [str_repeat('x', MidiReader::MOST_BYTES + 1), 'has 8000001 bytes; 8000000 are allowed'],
]);

it('reads any bytes or refuses them, and takes neither for ever nor all memory', function (): void {
    mt_srand(5);
    $good = MidiWriter::write([['Bells', [melody()]]], 120.0);
    $read = 0;
    for ($round = 0; $round < 3000; ++$round) {
        $bytes = $good;
        for ($n = mt_rand(1, 6); $n > 0; --$n) {
            $bytes[mt_rand(0, strlen($bytes) - 1)] = chr(mt_rand(0, 255));
        }
        try {
            $song = MidiReader::read($bytes);
            ++$read;
            foreach ($song->parts as $part) {
                foreach ($part->notes as $note) {
                    expect($note->length)->toBeGreaterThan(0)->and($note->key)->toBeLessThan(128)->and($note->velocity)->toBeGreaterThan(0);
                }
            }
        } catch (UnreadableMidiFile $refusal) {
            expect($refusal->getMessage())->toContain('at byte ');
        }
    }
    expect($read)->toBeGreaterThan(100);
});
