<?php

declare(strict_types=1);

use App\Models\StoredSession;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;
use Hafen\Tests\Support\Mix;
use Tests\Support\Demo;

function routedSession(): Session
{
    return Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'limiter')])->withSends([new Send('n1', 'plate', -12.0)]),
        Mix::track('bass', [Mix::split('s1', [new Branch('b1', 'Dry'), new Branch('b2', 'Again', inserts: [Mix::insert('i2', 'gain', on: false)])])])
            ->withSends([new Send('n2', 'cue', -3.0, TapPoint::PreFader)]),
        Mix::bus('plate', ChannelKind::Return, [Mix::insert('i3', 'reverb', ['decay' => 0.4])], 'wash'),
        Mix::bus('wash', ChannelKind::Return),
        Mix::bus('cue', ChannelKind::Cue, output: 'hw:3-4'),
    ]);
}

it('says what follows from the routing', function (): void {
    $session = Demo::session(routedSession());
    $state = $this->getJson("/api/sessions/{$session->id}")->assertOk()->json();
    expect($state['paths']['cello'])->toEqualCanonicalizing(['cello', 'plate', 'wash', 'main'])
        ->and($state['paths']['plate'])->toEqualCanonicalizing(['cello', 'plate', 'wash', 'main'])
        ->and($state['loops']['wash'])->toEqualCanonicalizing(['wash', 'plate', 'cello'])
        ->and($state['loops']['cello'])->toBe(['cello'])
        ->and($state['inserts']['s1'])->toEqual(['label' => 'Split 2', 'latency' => 0, 'rise' => 20 * log10(2), 'equal' => true, 'heard' => ['b1', 'b2']])
        ->and($state['latency']['arrival']['main'])->toBe($state['latency']['channels']['cello'])
        ->and($state['combs'])->toBe([])
        ->and($state['outputPairs'])->toBe(['hw:1-2', 'hw:3-4', 'hw:5-6', 'hw:7-8']);
    edit($session, 1, ['type' => 'set-aligned', 'channels' => ['cello'], 'aligned' => false])->assertOk()
        ->assertJsonPath('combs.0.channel', 'cello')
        ->assertJsonPath('combs.0.samples', $state['latency']['channels']['cello'])
        ->assertJsonPath('combs.0.notch', 48000 / (2 * $state['latency']['channels']['cello']));
});

it('refuses a loop with its names and leaves the session as it was', function (): void {
    $session = Demo::session(routedSession());
    edit($session, 1, ['type' => 'add-send', 'channels' => ['wash'], 'to' => 'plate'])->assertUnprocessable()
        ->assertJsonPath('location', 'loop')
        ->assertJsonPath('message', 'This would close a loop: Plate -> Wash -> Plate. Sound going round in it would grow without end.');
    $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('change', 1);
});

it('makes one revision, and one undo, of each one-step move', function (array $move): void {
    $session = Demo::session(routedSession());
    $before = $session->document;
    edit($session, 1, $move)->assertOk();
    $this->getJson("/api/sessions/{$session->id}/revisions")->assertJsonCount(2);
    expect(StoredSession::query()->findOrFail($session->id)->document)->not->toBe($before);
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    expect(StoredSession::query()->findOrFail($session->id)->document)->toBe($before);
})->with([
    'a new return' => [['type' => 'send-to-new-return', 'channels' => ['cello', 'bass'], 'processor' => 'echo']],
    'a group' => [['type' => 'group-channels', 'channels' => ['cello', 'bass', 'wash']]],
    'sends copied' => [['type' => 'copy-sends', 'sends' => ['n1'], 'channels' => ['bass']]],
    'the mix to a cue' => [['type' => 'copy-mix-to-cue', 'cue' => 'cue']],
    'many sends' => [['type' => 'put-sends', 'sends' => [['channel' => 'cello', 'to' => 'cue', 'gain' => -9], ['channel' => 'bass', 'to' => 'plate', 'gain' => -9], ['channel' => 'cello', 'to' => 'plate', 'gain' => null]]]],
    'a branch pulled out' => [['type' => 'pull-out-branch', 'branch' => 'b2']],
    'the level kept' => [['type' => 'keep-level', 'split' => 's1']],
    'a return removed' => [['type' => 'remove-channels', 'channels' => ['plate']]],
]);

it('carries stale routing edits over, unless they meet what changed', function (array $first, array $second, bool $meets): void {
    $session = Demo::session(routedSession());
    edit($session, 1, $first)->assertOk();
    $answer = edit($session, 1, $second);
    $meets ? $answer->assertConflict() : $answer->assertOk();
})->with([
    'two channels to one return' => [['type' => 'add-send', 'channels' => ['bass'], 'to' => 'plate'], ['type' => 'set-send-gain', 'sends' => ['n1'], 'gain' => -6], false],
    'the same send' => [['type' => 'set-send-gain', 'sends' => ['n1'], 'gain' => -9], ['type' => 'move-sends', 'sends' => ['n1', 'n2'], 'by' => 1], true],
    'amount and tap of one send' => [['type' => 'set-send-gain', 'sends' => ['n1'], 'gain' => -9], ['type' => 'set-send-tap', 'sends' => ['n1'], 'tap' => 'source'], false],
    'a send to what was removed' => [['type' => 'remove-channels', 'channels' => ['plate']], ['type' => 'add-send', 'channels' => ['bass'], 'to' => 'plate'], true],
    'an output to what was removed' => [['type' => 'remove-channels', 'channels' => ['wash']], ['type' => 'set-output', 'channels' => ['bass'], 'output' => 'wash'], true],
    'the amount of what was removed' => [['type' => 'remove-channels', 'channels' => ['plate']], ['type' => 'set-send-gain', 'sends' => ['n1'], 'gain' => 0], true],
    'two branches' => [['type' => 'set-branch-gain', 'branches' => ['b1'], 'gain' => -3], ['type' => 'set-branch-gain', 'branches' => ['b2'], 'gain' => -3], false],
    'a branch of what was dissolved' => [['type' => 'dissolve-split', 'split' => 's1', 'keep' => 'b1'], ['type' => 'set-branch-mute', 'branches' => ['b2'], 'mute' => true], true],
    'an insert in what was removed' => [['type' => 'remove-inserts', 'inserts' => ['s1']], ['type' => 'set-insert-on', 'inserts' => ['i2'], 'on' => true], true],
]);

it('surveys every kind of channel and every branch', function (): void {
    $session = Demo::session(routedSession());
    $this->postJson("/api/sessions/{$session->id}/survey")->assertSuccessful();
    $result = $this->getJson("/api/sessions/{$session->id}/survey")->json('result');
    $taps = $result['taps'];
    expect($result['loudness'])->toBeLessThan(6.0)->toBeGreaterThan(-20.0)
        ->and($result['truePeak'])->toBeGreaterThan($taps['main:post-fader']['peak'] - 0.01)
        ->and($result['loudest']['level'])->toEqualWithDelta($taps['main:source']['peak'], 1e-6)
        ->and(array_sum($result['loudest']['shares']))->toEqualWithDelta(1.0, 1e-6)
        ->and(array_keys($result['loudest']['shares']))->toEqualCanonicalizing(['cello', 'bass', 'wash']);
    expect($taps)->toHaveKeys(['plate:source', 'wash:post-fader', 'cue:post-fader', 'bass:into:s1', 'bass:branch:b1', 'bass:insert:i2', 'bass:insert:s1'])
        ->and($taps['bass:insert:s1']['peak'] - $taps['bass:into:s1']['peak'])->toEqualWithDelta(20 * log10(2), 0.001)
        ->and($taps['cue:source']['peak'])->toEqualWithDelta($taps['bass:pre-fader']['peak'] - 3.0 - 10 * log10(2), 0.001)
        ->and($taps['plate:post-fader']['peak'])->not->toBeNull();
});

it('keeps splits under names, and takes them into any row', function (): void {
    $session = Demo::session(routedSession());
    $split = (array) json_decode((string) $this->getJson("/api/sessions/{$session->id}")->getContent())->document->channels[1]->inserts[0];
    $this->postJson('/api/split-presets', ['name' => 'Twice', 'split' => $split])->assertCreated()->assertJsonPath('name', 'Twice');
    $this->postJson('/api/split-presets', ['name' => 'Twice', 'split' => [...$split, 'on' => false]])->assertCreated();
    $stored = (array) json_decode((string) $this->getJson('/api/split-presets')->assertJsonCount(1)->getContent())[0];
    edit($session, 1, ['type' => 'paste-inserts', 'channel' => 'cello', 'name' => $stored['name'], 'inserts' => [$stored['split']]])->assertOk()
        ->assertJsonPath('document.channels.0.inserts.1.type', 'split')
        ->assertJsonPath('document.channels.0.inserts.1.on', false)
        ->assertJsonPath('undo', 'Twice on Cello');
    $this->postJson('/api/split-presets', ['name' => 'Bad', 'split' => ['type' => 'split', 'id' => 's1', 'branches' => []]])->assertUnprocessable()
        ->assertJsonPath('location', '/split/0/branches');
    $this->postJson('/api/split-presets', ['name' => 'Bad', 'split' => $split['branches'][1]->inserts[0]])->assertUnprocessable()->assertJsonPath('location', '/split');
    $this->deleteJson("/api/split-presets/{$stored['id']}")->assertNoContent();
    $this->getJson('/api/split-presets')->assertJsonCount(0);
});

it('does not measure again what sounds the same: names, and what is shown', function (): void {
    $session = Demo::session(routedSession());
    $this->postJson("/api/sessions/{$session->id}/survey")->assertSuccessful();
    $change = 1;
    foreach ([
        ['type' => 'set-hidden', 'channels' => ['cello'], 'hidden' => true],
        ['type' => 'rename-branch', 'branch' => 'b1', 'name' => 'Plain'],
        ['type' => 'rename-channel', 'channel' => 'plate', 'name' => 'Large plate'],
    ] as $silent) {
        edit($session, $change++, $silent)->assertOk();
        $this->getJson("/api/sessions/{$session->id}/survey")->assertJsonPath('current', true);
    }
    edit($session, $change, ['type' => 'set-send-pan', 'sends' => ['n1'], 'pan' => 0.1])->assertOk();
    $this->getJson("/api/sessions/{$session->id}/survey")->assertJsonPath('current', false);
});

it('notes what practice says otherwise, mends it by an edit, and remembers what is left', function (): void {
    $session = Demo::session(routedSession());
    $notes = $this->getJson("/api/sessions/{$session->id}")->json('pilot');
    expect(array_column($notes, 'dismissed', 'id'))->toBe(['equal-branches:bass:s1' => false]);
    $this->putJson("/api/sessions/{$session->id}/advice", ['advice' => 'equal-branches:bass:s1', 'dismissed' => true])->assertOk()->assertJsonPath('pilot.0.dismissed', true);
    $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('pilot.0.dismissed', true);
    $this->putJson("/api/sessions/{$session->id}/advice", ['advice' => 'equal-branches:bass:s1', 'dismissed' => false])->assertOk()->assertJsonPath('pilot.0.dismissed', false);
    $this->putJson("/api/sessions/{$session->id}/advice", ['advice' => '', 'dismissed' => true])->assertUnprocessable();
    edit($session, 1, $notes[0]['fix']['edit'])->assertOk()->assertJsonPath('pilot', []);
});

it('notes what only the sound tells once the session is measured', function (): void {
    $session = Demo::session(Hafen\Tests\Support\Mix::session([Hafen\Tests\Support\Mix::track('cello', [Hafen\Tests\Support\Mix::insert('i1', 'gain', ['gain' => 12.0])])]));
    $notes = fn (): array => array_column($this->getJson("/api/sessions/{$session->id}/advice")->assertOk()->json('pilot'), 'severity', 'id');
    expect($notes())->toBe([]);
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    expect($notes())->toBe(['clips-at-output:main' => 'severe']);
    // A fader move leaves it to be measured again: nothing is said of what is not known.
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -24.0])->assertOk()->assertJsonPath('pilot', []);
});
