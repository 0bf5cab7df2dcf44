<?php

declare(strict_types=1);

use App\Models\StoredSession;
use Tests\Support\Demo;

it('shows a session with what follows from it', function (): void {
    $session = Demo::session();
    $this->getJson("/api/sessions/{$session->id}")->assertOk()
        ->assertJsonPath('change', 1)
        ->assertJsonPath('document.channels.0.name', 'Cello')
        ->assertJsonPath('inserts.i1.label', 'High-pass 80')
        ->assertJsonPath('audible.bass', true)
        ->assertJsonPath('latency.channels.bass', 27)
        ->assertJsonPath('undo', null);
});

it('edits, undoes and redoes to the identical document', function (): void {
    $session = Demo::session();
    $documents = [$session->document];
    $change = 1;
    foreach ([
        ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -3.0],
        ['type' => 'add-insert', 'channels' => ['cello', 'bass'], 'processor' => 'echo'],
        ['type' => 'set-parameter', 'insert' => 'i2', 'parameter' => 'ratio', 'value' => 8],
        ['type' => 'remove-channels', 'channels' => ['bass']],
    ] as $next) {
        edit($session, $change, $next)->assertOk()->assertJsonPath('change', ++$change);
        $documents[] = StoredSession::query()->findOrFail($session->id)->document;
    }
    foreach (array_reverse(array_slice($documents, 0, -1)) as $document) {
        $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
        expect(StoredSession::query()->findOrFail($session->id)->document)->toBe($document);
    }
    $this->postJson("/api/sessions/{$session->id}/undo")->assertUnprocessable()->assertJsonPath('message', 'Nothing to undo: this is the first revision.');
    foreach (array_slice($documents, 1) as $document) {
        $this->postJson("/api/sessions/{$session->id}/redo")->assertOk();
        expect(StoredSession::query()->findOrFail($session->id)->document)->toBe($document);
    }
    $this->postJson("/api/sessions/{$session->id}/redo")->assertUnprocessable();
});

it('makes one revision of one movement', function (): void {
    $session = Demo::session();
    foreach ([-1.0, -2.0, -3.0] as $i => $gain) {
        edit($session, 1 + $i, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => $gain], 'g1')->assertOk();
    }
    $this->getJson("/api/sessions/{$session->id}/revisions")->assertJsonCount(2)->assertJsonPath('0.label', "Fader of Cello \u{2212}3.0 dB");
    $this->postJson("/api/sessions/{$session->id}/undo")->assertJsonPath('document.channels.0.fader', 0);
});

it('carries a stale edit over where it touches other things, and refuses it where it does not', function (): void {
    $session = Demo::session();
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -3.0])->assertOk();
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['bass'], 'gain' => -4.0])->assertOk()
        ->assertJsonPath('document.channels.0.fader', -3)->assertJsonPath('document.channels.1.fader', -4);
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -9.0])->assertConflict()
        ->assertJsonPath('changed.0', "Fader of Cello \u{2212}3.0 dB")->assertJsonPath('change', 3);
    edit($session, 1, ['type' => 'remove-channels', 'channels' => ['cello']])->assertConflict();
    $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('document.channels.0.fader', -3);
    // An undo is a change too.
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    edit($session, 3, ['type' => 'set-fader', 'channels' => ['bass'], 'gain' => -1.0])->assertConflict();
    edit($session, 4, ['type' => 'set-fader', 'channels' => ['bass'], 'gain' => -1.0])->assertOk();
});

it('lets two windows work on the inserts of one channel at once', function (): void {
    $session = Demo::session();
    edit($session, 1, ['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'echo'])->assertOk();
    edit($session, 1, ['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'frequency', 'value' => 200])->assertOk();
    edit($session, 1, ['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'gain'])->assertConflict();
});

it('goes back to any revision and loses none', function (): void {
    $session = Demo::session();
    edit($session, 1, ['type' => 'set-mute', 'channels' => ['cello'], 'mute' => true]);
    edit($session, 2, ['type' => 'set-pan', 'channels' => ['bass'], 'pan' => 1.0]);
    $first = $session->head_id;
    $this->postJson("/api/sessions/{$session->id}/revisions/{$first}")->assertOk()->assertJsonPath('document.channels.0.mute', false);
    $this->getJson("/api/sessions/{$session->id}/revisions")->assertJsonCount(3);
    $this->postJson("/api/sessions/{$session->id}/redo")->assertJsonPath('document.channels.0.mute', true);
});

it('refuses bad bodies and names the field', function (array|string $body, string $place): void {
    $session = Demo::session();
    $content = is_string($body) ? $body : (string) json_encode($body);
    $this->call('POST', "/api/sessions/{$session->id}/edits", [], [], [], ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'], $content)
        ->assertUnprocessable()->assertJsonPath('location', $place);
})->with([
    'not JSON' => ['{"base":', '/'],
    'no edit' => [['base' => 1], '/'],
    'an edit of the wrong type' => [['base' => 1, 'edit' => 'louder'], '/edit'],
    'a field of the wrong type' => [['base' => 1, 'edit' => ['type' => 'set-pan', 'channels' => ['cello'], 'pan' => 'left']], '/edit/pan'],
    'a negative base' => [['base' => -1, 'edit' => ['type' => 'set-tempo', 'tempo' => 100]], '/base'],
]);

it('starts new sessions and lists them', function (): void {
    $this->postJson('/api/sessions', ['name' => 'Pier'])->assertCreated()->assertJsonPath('document.channels.0.kind', 'main');
    $this->postJson('/api/sessions', ['name' => ''])->assertUnprocessable()->assertJsonPath('location', '/name');
    $this->getJson('/api/sessions')->assertJsonPath('0.name', 'Pier');
    $this->getJson('/api/sessions/99')->assertNotFound();
});

it('answers only the machine it runs on', function (): void {
    $this->getJson('/api/sessions', ['Origin' => 'http://evil.example'])->assertForbidden();
    $this->getJson('/api/sessions', ['Origin' => 'http://127.0.0.1:8599'])->assertForbidden();
    $this->getJson('http://hafen.example/api/sessions')->assertForbidden();
});

it('keeps presets and draws pictures', function (): void {
    $this->postJson('/api/presets', ['processor' => 'filter', 'name' => 'Rumble', 'parameters' => ['frequency' => 60]])->assertCreated();
    $this->postJson('/api/presets', ['processor' => 'filter', 'name' => 'Bad', 'parameters' => ['frequency' => 1]])->assertUnprocessable()->assertJsonPath('location', '/parameters/frequency');
    $id = array_column((array) $this->getJson('/api/presets?processor=filter')->json(), 'id', 'name')['Rumble'];
    $this->delete("/api/presets/{$id}")->assertNoContent();
    $this->postJson('/api/processors/compressor/picture', ['parameters' => (object) [], 'sampleRate' => 48000, 'tempo' => 96])->assertOk()->assertJsonPath('picture.reading', 'transfer');
    $this->getJson('/api/processors')->assertJsonCount(58);
});
