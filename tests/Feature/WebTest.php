<?php

declare(strict_types=1);

use App\Http\RefusalResponse;
use App\Listening\ListenerSeats;
use App\Models\StoredSession;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use Tests\Support\Demo;

it('tells browsers to run no script but its own files, in no frame', function (): void {
    $page = $this->get('/')->assertOk();
    $policy = (string) $page->headers->get('Content-Security-Policy');
    expect($policy)->toContain("script-src 'self';")->toContain("frame-ancestors 'none'")->not->toContain('unsafe-eval')
        ->and($page->headers->get('X-Content-Type-Options'))->toBe('nosniff')
        ->and((string) $page->getContent())->not->toMatch('#<script(?![^>]*\bsrc=)#')->not->toMatch('# on[a-z]+="#');
    foreach (['/api/sessions', '/api/sessions/4711', '/api/nothing'] as $path) {
        $this->getJson($path)->assertHeader('X-Content-Type-Options', 'nosniff')->assertHeaderMissing('Access-Control-Allow-Origin');
    }
});

it('lets no other page have anything changed or computed, not even one on another port of this machine', function (array $headers, bool $read, bool $write): void {
    $session = Demo::session();
    $this->withServerVariables([]);
    $read = $read ? 200 : 403;
    $this->getJson("/api/sessions/{$session->id}", $headers)->assertStatus($read);
    $this->getJson("/api/sessions/{$session->id}/moment?at=1000", $headers)->assertStatus($read);
    $edit = ['base' => 1, 'edit' => ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -7.0]];
    $this->postJson("/api/sessions/{$session->id}/edits", $edit, $headers)->assertStatus($write ? 200 : 403);
    $this->postJson("/api/sessions/{$session->id}/survey", [], $headers)->assertStatus($write ? 202 : 403);
    expect(StoredSession::query()->sole()->change)->toBe($write ? 2 : 1);
})->with([
    'its own page' => [['Sec-Fetch-Site' => 'same-origin', 'Origin' => 'http://127.0.0.1:8600'], true, true],
    'a program with the header' => [['X-Hafen' => '1'], true, true],
    'a program without' => [[], true, false],
    'a page on another port' => [['Sec-Fetch-Site' => 'same-site', 'Origin' => 'http://127.0.0.1:3000'], false, false],
    'one that sends the header' => [['Sec-Fetch-Site' => 'same-site', 'Origin' => 'http://127.0.0.1:3000', 'X-Hafen' => '1'], false, false],
    'an image on another port' => [['Sec-Fetch-Site' => 'same-site'], false, false],
    'a page elsewhere' => [['Sec-Fetch-Site' => 'cross-site', 'Origin' => 'http://evil.example'], false, false],
    'a form without a name' => [['Sec-Fetch-Site' => 'cross-site', 'Origin' => 'null'], false, false],
    'an old browser elsewhere' => [['Origin' => 'http://evil.example', 'X-Hafen' => '1'], false, false],
]);

it('lets the page read its stream from the neighbouring port, and nobody else', function (): void {
    config(['app.url' => 'http://127.0.0.1:8600']);
    $session = Demo::session();
    $id = $this->postJson("/api/sessions/{$session->id}/listenings", ['side' => 1])->json('id');
    $this->get("http://127.0.0.1:8601/api/listenings/{$id}/stream", ['Origin' => 'http://127.0.0.1:8600', 'Sec-Fetch-Site' => 'same-site'])->assertOk()->assertHeader('Access-Control-Allow-Origin', 'http://127.0.0.1:8600');
    $this->get("http://127.0.0.1:8601/api/listenings/{$id}/stream", ['Origin' => 'http://127.0.0.1:3000', 'Sec-Fetch-Site' => 'same-site'])->assertForbidden();
    $this->getJson('http://127.0.0.1:8601/api/sessions', ['Origin' => 'http://127.0.0.1:8600', 'Sec-Fetch-Site' => 'same-site'])->assertForbidden();
});

it('says so when all seats of listeners are taken, and one is free again when a stream ends', function (): void {
    $session = Demo::session();
    $this->app->instance(ListenerSeats::class, $seats = new ListenerSeats($this->data.'/listeners', 2));
    $one = $seats->take();
    $two = $seats->take();
    $id = $this->postJson("/api/sessions/{$session->id}/listenings", ['side' => 1])->json('id');
    expect($this->getJson("/api/listenings/{$id}/stream")->assertStatus(503)->json('message'))->toContain('2 windows');
    fclose($one);
    $this->get("/api/listenings/{$id}/stream")->assertOk();
    fclose($two);
});

it('answers for numbers beyond integers, and ids that are none, without a fault', function (string $path): void {
    $session = Demo::session();
    $path = str_replace('{s}', (string) $session->id, $path);
    foreach (['GET', 'POST', 'PUT', 'DELETE'] as $method) {
        $status = $this->call($method, $path, server: ['HTTP_ACCEPT' => 'application/json'], content: '{}')->getStatusCode();
        expect($status)->toBeIn([202, 404, 405, 422], "{$method} {$path}");
    }
})->with([
    '/api/sessions/99999999999999999999999', '/api/sessions/-1', '/api/sessions/1e3', '/api/sessions/{s}/revisions/99999999999999999999', '/api/renders/99999999999999999999',
    '/api/sessions/{s}/survey?from=99999999999999999999&to=1', '/api/sessions/{s}/survey?from[]=1', '/api/sessions/{s}/moment?at=99999999999999999999',
    '/api/media/..%2F..%2Fetc', '/api/media/x?sampleRate=1e99', '/api/uploads/x?offset=99999999999999999999', '/api/presets/99999999999999999999', '/api/sessions/{s}/channels/%00/musical-key',
]);

it('refuses a render or a survey longer than a day', function (): void {
    $session = Demo::session();
    $this->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f', 'to' => 1 << 40])->assertUnprocessable()->assertJsonPath('location', 'render');
    $this->postJson("/api/sessions/{$session->id}/survey", ['from' => 0, 'to' => 1 << 40])->assertUnprocessable()->assertJsonPath('location', 'survey');
    edit($session, 1, ['type' => 'put-file', 'channel' => 'cello', 'file' => ['file' => 'cello', 'length' => 1 << 40, 'width' => 'mono']])->assertOk();
    $this->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f'])->assertUnprocessable();
    $this->postJson("/api/sessions/{$session->id}/survey")->assertUnprocessable();
    $this->getJson("/api/sessions/{$session->id}/survey")->assertOk();
});

it('plays the sound of a medium and of no other file', function (): void {
    $session = Demo::session();
    Demo::wav("{$this->data}/secret.48000.wav", array_fill(0, 4800, 0.5));
    Demo::wav("{$this->data}/secret.wav", array_fill(0, 4800, 0.5));
    edit($session, 1, ['type' => 'put-file', 'channel' => 'cello', 'file' => ['file' => '../secret', 'length' => 4800, 'width' => 'mono']])->assertOk();
    $id = $this->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f'])->assertAccepted()->json('id');
    $this->getJson("/api/renders/{$id}")->assertJsonPath('status', 'failed');
});

it('says that the disk is full, in place of a fault, and goes on once there is room', function (): void {
    config(['database.connections.small' => [...config('database.connections.sqlite'), 'database' => "{$this->data}/small.sqlite"]]);
    touch("{$this->data}/small.sqlite");
    $small = DB::connection('small');
    $small->statement('create table notes (text text)');
    $small->statement('pragma max_page_count = 20');
    $fill = fn () => $small->transaction(static function () use ($small): void {
        for ($i = 0; $i < 100; ++$i) {
            $small->insert('insert into notes values (?)', [str_repeat('x', 4000)]);
        }
    });
    foreach ([1, 2] as $again) {
        $exception = null;
        try {
            $fill();
        } catch (QueryException $exception) {
        }
        expect($exception)->not->toBeNull();
        $answer = RefusalResponse::ofDatabase($exception);
        expect($answer?->getStatusCode())->toBe(507)->and($answer->getData()->message)->toContain('disk is full');
        // A new connection has forgotten the limit; the first transaction left nothing behind.
        $small->statement('pragma max_page_count = 20');
    }
    $small->statement('pragma max_page_count = 100000');
    $fill();
    expect($small->table('notes')->count())->toBe(100)->and(RefusalResponse::ofDatabase(new QueryException('small', 'select', [], new Exception('no such table'))))->toBeNull();
});

it('says so too where the disk fills up as a transaction ends', function (): void {
    Route::get('/api/full', static fn () => throw new PDOException('SQLSTATE[HY000]: General error: 13 database or disk is full'));
    $this->getJson('/api/full')->assertStatus(507)->assertJsonPath('location', 'disk');
});
