<?php

declare(strict_types=1);

use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Tests\Support\Mix;
use Tests\Support\Demo;

require_once __DIR__.'/../Support/edit.php';

/** A singer and a bass, sent to the singer's cue. */
function cued(): StoredSession
{
    return Demo::session(Mix::session([
        Mix::track('voice')->withSends([new Send('n1', 'cue', -6.0, TapPoint::PreFader)]),
        Mix::track('bass')->withSends([new Send('n2', 'cue', -12.0, TapPoint::PreFader)]),
        Mix::bus('cue', ChannelKind::Cue),
    ]));
}

/** @return string path of its page in the interface for programs */
function pageOf(StoredSession $session): string
{
    return '/api'.str_replace('/cue/', '/cues/', test()->postJson("/api/sessions/{$session->id}/cues/cue/page")->assertOk()->json('path'));
}

it('lets who knows the address set the few faders of a cue, as edits that are undone like any', function (): void {
    $session = cued();
    edit($session, 1, ['type' => 'set-performer', 'cue' => 'cue', 'tracks' => ['voice']])->assertOk();
    $page = pageOf($session);
    expect(pageOf($session))->toBe($page)->and($page)->toMatch('#^/api/cues/[0-9a-f]{32}$#');
    $this->getJson($page)->assertOk()->assertJsonPath('faders.*.id', ['me', 'band', 'click', 'volume'])->assertJsonPath('tracks', ['Voice'])->assertJsonPath('faders.2.gain', null);
    foreach ([['me', 3.5], ['band', null], ['click', -20], ['volume', -4]] as [$fader, $gain]) {
        $this->putJson($page, ['fader' => $fader, 'gain' => $gain, 'gesture' => $fader])->assertOk();
    }
    $cue = app(SessionBook::class)->open($session->refresh())->channel('cue');
    expect([$cue->performer->me, $cue->performer->band, $cue->click, $cue->fader])->toBe([3.5, null, -20.0, -4.0]);
    $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('performers', ['cue' => [['part' => 'me', 'name' => 'Me', 'gain' => 3.5], ['part' => 'band', 'name' => 'Band', 'gain' => null]]]);
    $this->putJson($page, ['fader' => 'click', 'gain' => -60])->assertOk()->assertJsonPath('faders.2.gain', null);
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk()->assertJsonPath('redo', 'No click in Cue');
    $this->getJson($page)->assertJsonPath('faders.2.gain', -20);
    // One movement is one step, and what the desk does meanwhile is no hindrance.
    $revisions = $session->revisions()->count();
    foreach ([-1, -2, -3] as $gain) {
        $this->putJson($page, ['fader' => 'band', 'gain' => $gain, 'gesture' => 'g']);
        edit($session, $session->refresh()->change, ['type' => 'set-performer-gain', 'cue' => 'cue', 'part' => 'me', 'gain' => $gain], 'desk')->assertOk();
    }
    expect($session->revisions()->count())->toBe($revisions + 6);
    $this->putJson($page, ['fader' => 'volume', 'gain' => -5, 'gesture' => 'v']);
    $this->putJson($page, ['fader' => 'volume', 'gain' => -7, 'gesture' => 'v']);
    expect($session->revisions()->count())->toBe($revisions + 7);
});

it('refuses what a performer may not, with the field and what is allowed', function (array $body, string $place): void {
    $page = pageOf(cued());
    $this->putJson($page, $body)->assertUnprocessable()->assertJsonPath('location', $place);
    $this->getJson($page)->assertJsonPath('faders.*.id', ['band', 'click', 'volume'])->assertJsonPath('faders.0.label', 'All')->assertJsonPath('faders.0.gain', 0);
})->with([
    'another fader' => [['fader' => 'cello', 'gain' => 0], '/fader'],
    'too loud' => [['fader' => 'band', 'gain' => 12.5], '/gain'],
    'a click above full scale' => [['fader' => 'click', 'gain' => 1], '/gain'],
    'a word' => [['fader' => 'band', 'gain' => 'loud'], '/gain'],
    'an edit' => [['fader' => 'band', 'gain' => 0, 'edit' => ['type' => 'set-fader', 'channels' => ['voice'], 'gain' => 0]], '/edit'],
]);

it('closes a page, and knows none of a cue that is gone or a key that is guessed', function (): void {
    $session = cued();
    $page = pageOf($session);
    $this->deleteJson("/api/sessions/{$session->id}/cues/cue/page")->assertNoContent();
    $this->getJson($page)->assertNotFound()->assertJsonPath('message', 'This page is closed. Ask at the desk for a new address.');
    $next = pageOf($session);
    expect($next)->not->toBe($page);
    edit($session, 1, ['type' => 'remove-channels', 'channels' => ['cue']])->assertOk();
    $this->getJson($next)->assertNotFound();
    $this->putJson($next, ['fader' => 'volume', 'gain' => 0])->assertNotFound();
    $this->getJson('/api/cues/'.str_repeat('0', 32))->assertNotFound();
    $this->postJson("/api/sessions/{$session->id}/cues/voice/page")->assertUnprocessable()->assertJsonPath('message', 'Voice is no cue: only cues have a performer.');
});

it('serves other devices the pages of performers alone, and only where that is wanted', function (): void {
    $session = cued();
    $here = 'http://192.168.7.20:8602';
    $from = fn (string $method, string $path, array $headers = [], string $host = 'http://192.168.7.20:8602') => $this->withServerVariables(['REMOTE_ADDR' => '192.168.7.31'])
        ->json($method, "{$host}{$path}", $method === 'PUT' ? ['fader' => 'volume', 'gain' => -3] : [], $headers);
    config(['hafen.performers_url' => $here]);
    $page = pageOf($session);
    expect(test()->postJson("/api/sessions/{$session->id}/cues/cue/page")->json('url'))->toBe($here.str_replace('/api/cues/', '/cue/', $page));
    $from('GET', $page)->assertOk();
    $from('GET', str_replace('/api/cues/', '/cue/', $page))->assertOk();
    $from('PUT', $page, ['Origin' => $here, 'X-Hafen' => '1'])->assertOk()->assertJsonPath('faders.2.gain', -3);
    // No other page has a performer's browser set anything, and nothing else is there, whatever host is claimed.
    $from('PUT', $page, ['Origin' => 'http://evil.example', 'X-Hafen' => '1'])->assertForbidden();
    $from('PUT', $page, ['Origin' => $here])->assertForbidden();
    foreach (['/', '/api/sessions', "/api/sessions/{$session->id}", '/api/interface'] as $path) {
        $from('GET', $path)->assertForbidden();
        $from('GET', $path, [], 'http://127.0.0.1:8602')->assertForbidden();
    }
    $from('GET', '/api/cues/../sessions')->assertNotFound();
    $from('GET', $page, [], 'http://evil.example:8602')->assertForbidden();
    config(['hafen.performers_url' => '']);
    $from('GET', $page)->assertForbidden();
});
