<?php

declare(strict_types=1);

use App\Sessions\SessionBook;
use Hafen\Note\MidiReader;
use Hafen\Note\MidiWriter;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Session\BlankSession;

/** @param  array<string, mixed>  $edit */
function noteEdit(int $id, array $edit): mixed
{
    $base = test()->getJson("/api/sessions/{$id}")->json('change');

    return test()->postJson("/api/sessions/{$id}/edits", ['base' => $base, 'edit' => $edit]);
}

it('reads a MIDI file into clips, and gives the notes of a channel as one', function (): void {
    $file = MidiWriter::write([['Bells', [new NoteClip('c1', 0, 3840, [new Note(240, 480, 72, 100)])]]], 90.0);
    $song = $this->call('POST', '/api/midi', content: $file)->assertOk()->json();
    expect($song['tempo'])->toEqual(90)->and($song['parts'])->toEqual([['name' => 'Bells', 'clip' => ['id' => 'c1', 'start' => 0, 'length' => 3840, 'notes' => [[240, 480, 72, 100]]]]]);
    $id = app(SessionBook::class)->create(BlankSession::named('Notes', 44100))->id;
    noteEdit($id, ['type' => 'add-channel', 'kind' => 'note', 'name' => 'Bells: Ø', 'notes' => $song['parts'][0]['clip']])->assertOk();
    $answer = $this->get("/api/sessions/{$id}/notes/bells")->assertOk()->assertHeader('Content-Disposition', 'attachment; filename="Bells.mid"');
    $back = MidiReader::read((string) $answer->getContent());
    expect($back->tempo)->toEqualWithDelta(120.0, 1e-3)->and($back->parts[0]->name)->toBe('Bells: Ø')->and($back->parts[0]->notes)->toEqual([new Note(240, 480, 72, 100)]);
});

it('refuses what is no MIDI file, and channels without notes, and says why', function (): void {
    $this->call('POST', '/api/midi', content: 'MThd')->assertStatus(422)->assertJsonPath('message', 'Not a MIDI file that can be read: at byte 4 the file ends too soon.');
    $this->call('POST', '/api/midi', server: ['CONTENT_LENGTH' => (string) (MidiReader::MOST_BYTES + 1)])->assertStatus(422)->assertJsonPath('message', 'The MIDI file has 8000001 bytes; 8000000 are allowed.');
    $id = app(SessionBook::class)->create(BlankSession::named('Notes', 44100))->id;
    $this->get("/api/sessions/{$id}/notes/main")->assertStatus(422)->assertJsonPath('message', 'Main is no note channel. Notes lie on note channels only.');
    $this->get("/api/sessions/{$id}/notes/nobody")->assertStatus(422);
    noteEdit($id, ['type' => 'add-channel', 'kind' => 'track', 'name' => 'Track', 'notes' => ['id' => 'c1', 'start' => 0, 'length' => 1]])->assertStatus(422)->assertJsonPath('message', fn (string $message): bool => str_contains($message, 'only a note channel has notes'));
});

it('tells what sound switches move, and how far a selector has branches open', function (): void {
    $id = app(SessionBook::class)->create(BlankSession::named('Sounds', 48000))->id;
    noteEdit($id, ['type' => 'add-channel', 'name' => 'One'])->assertOk();
    noteEdit($id, ['type' => 'add-split', 'channel' => 'one', 'branches' => 2])->assertOk();
    noteEdit($id, ['type' => 'add-selector', 'split' => 's1'])->assertOk();
    noteEdit($id, ['type' => 'add-sound-switch', 'channel' => 'one', 'name' => 'Tone', 'sound' => 'Low'])->assertOk();
    $state = noteEdit($id, ['type' => 'turn-selector', 'split' => 's1', 'value' => 0.9])->assertOk()->json();
    expect($state['sounds']['w1'])->toBe(['moves' => [], 'changed' => true]);
    $state = noteEdit($id, ['type' => 'add-sound', 'switch' => 'w1', 'name' => 'High'])->json();
    expect($state['sounds']['w1'])->toBe(['moves' => ['Selector'], 'changed' => false]);
    [$low, $high] = $state['inserts']['s1']['openings'];
    expect(count($low))->toBe(101)->and([$low[0], $low[100], $high[0], $high[100]])->toEqual([1, 0, 0, 1])->and($low[50] ** 2 + $high[50] ** 2)->toEqualWithDelta(1.0, 1e-2)->and($state['inserts']['s1']['rise'])->toBeNull();
});

it('tells which splits notes get to', function (): void {
    $id = app(SessionBook::class)->create(BlankSession::named('Zones', 48000))->id;
    noteEdit($id, ['type' => 'add-channel', 'kind' => 'note', 'name' => 'Keys'])->assertOk();
    $state = noteEdit($id, ['type' => 'add-split', 'channel' => 'keys', 'branches' => 2])->assertOk()->json();
    $instrument = $state['document']['channels'][0]['inserts'][0];
    expect($instrument['type'])->toBe('instrument')->and($state['inserts']['s1'])->not->toHaveKey('notes')->and($state['inserts']['s1']['rise'])->toEqualWithDelta(6.0206, 1e-3)->and(array_column($state['pilot'], 'check'))->toContain('equal-branches');
    $state = noteEdit($id, ['type' => 'set-insert-on', 'inserts' => [$instrument['id']], 'on' => false])->assertOk()->json();
    // Notes have no level that two branches could double.
    expect($state['inserts']['s1']['notes'])->toBeTrue()->and($state['inserts']['s1']['rise'])->toBeNull()->and($state['inserts']['s1']['equal'])->toBeFalse()
        ->and(array_column($state['pilot'], 'check'))->not->toContain('equal-branches');
});

it('takes the keys somebody plays, and refuses what are none', function (): void {
    $id = app(SessionBook::class)->create(BlankSession::named('Keys', 48000))->id;
    noteEdit($id, ['type' => 'add-channel', 'kind' => 'note', 'name' => 'Keys'])->assertOk();
    $listening = $this->postJson("/api/sessions/{$id}/listenings", ['played' => ['channel' => 'keys', 'keys' => [[60, 100, 1]], 'controls' => [[64, 127], [128, -8192]]]])->assertCreated()->json('id');
    expect(App\Models\Listening::query()->findOrFail($listening)->played)->toBe(['channel' => 'keys', 'keys' => [[60, 100, 1]], 'controls' => [[64, 127], [128, -8192]]]);
    $this->putJson("/api/listenings/{$listening}", ['played' => null])->assertSuccessful();
    expect(App\Models\Listening::query()->findOrFail($listening)->played)->toBeNull();
    foreach ([
        [['channel' => 'keys'], '/played', '"keys" is missing'],
        [['channel' => 'keys', 'keys' => [[128, 1, 1]]], '/played/keys/0/0', 'Found 128; allowed is a whole number from 0 to 127'],
        [['channel' => 'keys', 'keys' => [[60, 0, 1]]], '/played/keys/0/1', 'Found 0'],
        [['channel' => 'keys', 'keys' => [[60, 1]]], '/played/keys/0', 'a key as [key, velocity, number]'],
        [['channel' => 'keys', 'keys' => array_fill(0, 33, [60, 1, 1])], '/played/keys', '32'],
        [['channel' => 'keys', 'keys' => [], 'controls' => [[129, 0]]], '/played/controls/0/0', 'Found 129; allowed is a whole number from 0 to 128'],
        [['channel' => 'keys', 'keys' => [], 'controls' => [[64, 128]]], '/played/controls/0/1', 'Found 128; allowed is a whole number from 0 to 127'],
        [['channel' => 'keys', 'keys' => [], 'controls' => [[64]]], '/played/controls/0', 'a controller as [number, value]'],
    ] as [$played, $field, $why]) {
        $answer = $this->putJson("/api/listenings/{$listening}", ['played' => $played])->assertStatus(422);
        expect((string) $answer->getContent())->toContain(str_replace('/', '\/', $field))->and($answer->json('message'))->toContain($why);
    }
});
