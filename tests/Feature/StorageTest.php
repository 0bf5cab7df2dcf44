<?php

declare(strict_types=1);

use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\Revision;
use App\Models\StoredSession;
use App\Sessions\RevisionDocuments;
use App\Sessions\SessionBook;
use Tests\Support\Demo;

it('shows what lies on the disk with its size and who uses it', function (): void {
    $session = Demo::session();
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    $render = $this->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f'])->json('id');
    $storage = $this->getJson('/api/storage')->assertOk()->json();
    $media = array_column($storage['media'], null, 'id');
    $size = fn (string $folder): int => array_sum(array_map(filesize(...), glob("{$this->data}/{$folder}/*")));
    expect($media['cello']['usedBy'])->toBe(['Test'])
        ->and(array_sum(array_column($storage['media'], 'bytes')))->toBe($size('media'))
        ->and($storage['captured'])->toBe($size('surveys'))
        ->and($storage['renders'][0]['bytes'])->toBe($size('renders'))->and($storage['renders'][0]['id'])->toBe($render)
        ->and($storage['sessions'][0]['revisions'])->toBe(1)->and($storage['free'])->toBeGreaterThan(0);
});

it('keeps what any revision or preset uses, and removes the rest with all that was made from it', function (): void {
    $session = Demo::session();
    Demo::wav("{$this->data}/media/spare.wav", array_fill(0, 4800, 0.1));
    Demo::wav("{$this->data}/media/spare.44100.wav", array_fill(0, 4800, 0.1));
    Media::query()->create(['id' => 'spare', 'name' => 'Spare', 'extension' => 'wav', 'bytes' => 1, 'status' => 'ready']);
    Media::query()->create(['id' => 'hall', 'name' => 'Hall', 'extension' => 'wav', 'bytes' => 1, 'status' => 'ready']);
    $this->postJson('/api/presets', ['processor' => 'convolution', 'name' => 'Own hall', 'parameters' => ['recording' => 'hall']])->assertCreated();
    // The cello is used by an older revision only.
    edit($session, 1, ['type' => 'remove-channels', 'channels' => ['cello']])->assertOk();
    expect($this->deleteJson('/api/media/cello')->assertUnprocessable()->json('message'))->toContain('Test')
        ->and($this->deleteJson('/api/media/hall')->assertUnprocessable()->json('message'))->toContain('Own hall');
    $left = array_column($this->deleteJson('/api/storage/media')->assertOk()->json('media'), 'id');
    expect($left)->toEqualCanonicalizing(['cello', 'bass', 'hall'])->and(glob("{$this->data}/media/spare*"))->toBe([]);
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    // With the session goes its claim.
    $this->deleteJson("/api/sessions/{$session->id}")->assertOk()->assertJsonPath('sessions', []);
    expect(array_column($this->deleteJson('/api/storage/media')->json('media'), 'id'))->toBe(['hall']);
});

it('removes renders and captured audio, which is captured again', function (): void {
    $session = Demo::session();
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    $before = $this->getJson("/api/sessions/{$session->id}/survey")->json('result.taps');
    $render = $this->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f'])->json('id');
    $this->deleteJson("/api/renders/{$render}")->assertOk()->assertJsonPath('renders', []);
    $this->getJson("/api/renders/{$render}")->assertNotFound();
    expect(is_file(app(MediaFolder::class)->render($render)))->toBeFalse();
    $this->deleteJson('/api/storage/captured')->assertOk()->assertJsonPath('captured', 0);
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['bass'], 'gain' => 0.5])->assertOk();
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted()->assertJsonPath('current', true);
    expect($this->getJson("/api/sessions/{$session->id}/survey")->json('result.taps')['cello:source'])->toEqual($before['cello:source']);
});

it('thins old revisions only when asked, and every one that stays can be gone to', function (): void {
    $session = Demo::session();
    $book = app(SessionBook::class);
    $documents = [];
    for ($change = 1; $change <= 60; ++$change) {
        edit($session, $change, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -$change / 4])->assertOk();
        $stored = StoredSession::query()->findOrFail($session->id);
        $documents[$stored->head_id] = $stored->document;
    }
    // A branch of the past: back a while, and on from there.
    $old = array_keys($documents)[20];
    $change = $this->postJson("/api/sessions/{$session->id}/revisions/{$old}")->assertOk()->json('change');
    expect($book->thin($session->id, 25))->toBeGreaterThan(30);
    foreach (Revision::query()->get() as $revision) {
        expect(RevisionDocuments::of($revision))->toBe($documents[$revision->id]);
        $change = $this->postJson("/api/sessions/{$session->id}/revisions/{$revision->id}")->assertOk()->json('change');
    }
    expect(Revision::query()->count())->toBe(26);
    edit($session, $change, ['type' => 'set-fader', 'channels' => ['bass'], 'gain' => -1.0])->assertOk();
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    $this->postJson("/api/sessions/{$session->id}/thin")->assertOk();
});
