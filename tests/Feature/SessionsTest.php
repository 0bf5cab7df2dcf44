<?php

declare(strict_types=1);

use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\StoredSession;
use App\Models\Upload;
use App\Sessions\SessionBook;
use App\Storage\Sweep;
use Hafen\Audio\WavReader;
use Hafen\Command\Application as CommandLine;
use Hafen\Session\Insert\Branch;
use Hafen\Tests\Support\Mix;
use Tests\Support\Demo;

// Sessions are copied, deleted and brought back, and carried away with their files.

/** A session with two files on tracks, one of them in an effect as well, inside a split. */
function bundledSession(): StoredSession
{
    return Demo::session(Mix::session([
        Mix::track('cello', [Mix::split('s1', [new Branch('b1', 'Dry'), new Branch('b2', 'Room', -6.0, inserts: [
            Mix::insert('i1', 'convolution', ['response' => 'own', 'recording' => 'bass'], 0.3),
        ])])]),
        Mix::track('bass', [Mix::insert('i3', 'drive')]),
    ]));
}

/** @return string path of the ZIP */
function bundleOf(StoredSession $session): string
{
    $path = test()->get("/api/sessions/{$session->id}/bundle")->assertOk()->assertDownload("{$session->name}.zip")->baseResponse->getFile()->getPathname();
    $kept = tempnam(sys_get_temp_dir(), 'bundle');
    copy($path, $kept);

    return $kept;
}

/** @return Illuminate\Testing\TestResponse<Symfony\Component\HttpFoundation\Response> */
function openBundle(string $bytes, string $name = 'Test.zip'): Illuminate\Testing\TestResponse
{
    $id = test()->postJson('/api/uploads', ['name' => $name, 'bytes' => strlen($bytes)])->assertCreated()->json('id');
    test()->call('PUT', "/api/uploads/{$id}?offset=0", content: $bytes, server: ['HTTP_ACCEPT' => 'application/json'])->assertOk();

    return test()->postJson("/api/uploads/{$id}/open");
}

/** @param  array<string, string>  $entries */
function zipOf(array $entries): string
{
    $path = tempnam(sys_get_temp_dir(), 'zip');
    $zip = new ZipArchive;
    $zip->open($path, ZipArchive::CREATE | ZipArchive::OVERWRITE);
    foreach ($entries as $name => $content) {
        $zip->addFromString($name, $content);
    }
    $zip->close();

    return (string) file_get_contents($path);
}

it('carries a session with its files to another Hafen, where it sounds the same to the bit', function (): void {
    $session = bundledSession();
    $render = fn (int $id): array => WavReader::open(app(MediaFolder::class)->render($this->postJson("/api/sessions/{$id}/renders", ['format' => '32f'])->assertAccepted()->json('id')))->read(0, 48000);
    $before = $render($session->id);
    $bundle = (string) file_get_contents(bundleOf($session));
    // Elsewhere: none of the files is there.
    $this->deleteJson("/api/sessions/{$session->id}")->assertOk();
    $this->deleteJson('/api/storage/media')->assertOk()->assertJsonPath('media', []);
    $opened = openBundle($bundle)->assertCreated()->json();
    expect($opened['session']['document']['name'])->toBe('Test')->and($opened['media'])->toHaveCount(2)
        ->and(Upload::query()->count())->toBe(0);
    expect($render($opened['session']['id']))->toBe($before);
    // Packed again it says the same.
    $again = new ZipArchive;
    $again->open(bundleOf(StoredSession::query()->findOrFail($opened['session']['id'])));
    $first = new ZipArchive;
    $first->open(tap(tempnam(sys_get_temp_dir(), 'first'), static fn (string $path) => file_put_contents($path, $bundle)));
    expect($again->getFromName('session.json'))->toBe($first->getFromName('session.json'));
});

it('is worked with on the command line once it is unpacked', function (): void {
    $session = bundledSession();
    $folder = sys_get_temp_dir().'/unpacked-'.bin2hex(random_bytes(4));
    $zip = new ZipArchive;
    $zip->open(bundleOf($session));
    $zip->extractTo($folder);
    ob_start();
    $status = (new CommandLine(fopen('php://memory', 'w'), fopen('php://memory', 'w')))->run(['render', "{$folder}/session.json", '--out', "{$folder}/out.wav", '--bits', '32f']);
    ob_end_clean();
    expect($status)->toBe(0);
    $expected = WavReader::open(app(MediaFolder::class)->render($this->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f', 'tail' => 0])->json('id')));
    expect(WavReader::open("{$folder}/out.wav")->read(0, 40000))->toBe($expected->read(0, 40000));
});

it('refuses what is no bundle, says why, and leaves nothing behind', function (callable $bytes, string $says): void {
    bundledSession();
    $media = Media::query()->count();
    $files = count(glob(dirname(app(MediaFolder::class)->render('x'), 2).'/*/*'));
    openBundle($bytes())->assertUnprocessable()->assertJson(fn ($json) => $json->where('message', fn (string $message): bool => str_contains($message, $says))->etc());
    expect(StoredSession::query()->count())->toBe(1)->and(Media::query()->count())->toBe($media);
    // The upload itself waits for another try, and is swept after a week.
    expect(count(glob(dirname(app(MediaFolder::class)->render('x'), 2).'/*/*')))->toBe($files + 1);
})->with([
    'no ZIP' => [fn () => 'RIFF....', 'not a ZIP'],
    'a cut one' => [fn () => substr(zipOf(['session.json' => bin2hex(random_bytes(2000))]), 0, 900), 'not a ZIP'],
    'no document' => [fn () => zipOf(['audio/cello.wav' => 'x']), 'no session.json'],
    'a broken document' => [fn () => zipOf(['session.json' => '{"format":']), 'JSON'],
    'a document of another format' => [fn () => zipOf(['session.json' => '{"format": "kazoo"}']), 'missing'],
    'a document that unpacks to far too much' => [fn () => zipOf(['session.json' => str_repeat(' ', 17 << 20)]), 'at most'],
]);

it('takes only files the document names, whatever else a bundle holds', function (): void {
    $bundle = bundleOf(bundledSession());
    $zip = new ZipArchive;
    $zip->open($bundle);
    $zip->addFromString('../../escaped.wav', 'x');
    $zip->addFromString('audio/other.wav', 'x');
    $zip->close();
    $this->deleteJson('/api/storage/media');
    expect(openBundle((string) file_get_contents($bundle))->assertCreated()->json('media'))->toHaveCount(2)
        ->and(glob(dirname(app(MediaFolder::class)->render('x'), 3).'/escaped*'))->toBe([]);
});

it('opens nothing of a bundle with one damaged file, and keeps none of the others', function (callable $damage): void {
    $bundle = (string) file_get_contents(bundleOf(bundledSession()));
    StoredSession::query()->firstOrFail()->forceDelete();
    $this->deleteJson('/api/storage/media');
    [$media, $uploads] = [Media::query()->count(), Upload::query()->count()];
    $damaged = $damage($bundle);
    expect($damaged)->not->toBe($bundle);
    openBundle($damaged)->assertUnprocessable()->assertJson(fn ($json) => $json->where('message', fn (string $message): bool => str_contains($message, 'damaged'))->etc());
    expect(StoredSession::query()->count())->toBe(0)
        ->and(Media::query()->count())->toBe($media)
        // The bundle itself waits for another try.
        ->and(Upload::query()->count())->toBe($uploads + 1);
})->with([
    // Sound is stored as it is, so that a byte of it can be turned in the ZIP.
    'a byte of the second file' => [function (string $bundle): string {
        $at = strpos($bundle, 'data', (int) strpos($bundle, 'audio/bass.wav')) + 400;

        return substr_replace($bundle, chr(ord($bundle[$at]) ^ 255), $at, 1);
    }],
    'another checksum' => [function (string $bundle): string {
        $entry = (int) strrpos(substr($bundle, 0, (int) strrpos($bundle, 'audio/bass.wav')), "PK\x01\x02");

        return substr_replace($bundle, 'abcd', $entry + 16, 4);
    }],
]);

it('opens a bundle that lacks a file, which is then said to be missing', function (): void {
    $bundle = bundleOf(bundledSession());
    $zip = new ZipArchive;
    $zip->open($bundle);
    $zip->deleteName('audio/cello.wav');
    $zip->close();
    $opened = openBundle((string) file_get_contents($bundle))->assertCreated()->json();
    expect($opened['media'])->toHaveCount(1)
        ->and($opened['session']['document']['channels'][0]['source']['clips'][0]['file'])->toBe('audio/cello.wav');
});

it('copies a session: the copy goes its own way', function (): void {
    $session = bundledSession();
    $copy = $this->postJson("/api/sessions/{$session->id}/copy", ['name' => 'Second try'])->assertCreated()->assertJsonPath('document.name', 'Second try')->json();
    expect($copy['id'])->not->toBe($session->id)->and($copy['undo'])->toBeNull();
    $this->postJson("/api/sessions/{$copy['id']}/edits", ['base' => 1, 'edit' => ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -20.0]])->assertOk();
    expect(app(SessionBook::class)->open($session->refresh())->channel('cello')->fader)->toBe(0.0);
    $this->postJson("/api/sessions/{$session->id}/copy", ['name' => ''])->assertUnprocessable()->assertJsonPath('location', '/name');
});

it('brings a deleted session back for a day, with its revisions, and no longer', function (): void {
    $session = bundledSession();
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -20.0]])->assertOk();
    $this->postJson("/api/sessions/{$session->id}/discard")->assertOk()->assertExactJson([]);
    $this->getJson("/api/sessions/{$session->id}")->assertNotFound();
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 2, 'edit' => ['type' => 'set-mute', 'channels' => ['cello'], 'mute' => true]])->assertNotFound();
    // Its files are still in use.
    $this->deleteJson('/api/storage/media')->assertOk()->assertJsonCount(2, 'media');
    $this->getJson('/api/sessions/discarded')->assertOk()->assertJsonPath('0.name', 'Test');
    app(Sweep::class)->look();
    $this->postJson("/api/sessions/{$session->id}/restore")->assertOk()->assertJsonPath('0.id', $session->id);
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk()->assertJsonPath('document.channels.0.fader', 0);
    $this->postJson("/api/sessions/{$session->id}/discard")->assertOk();
    $this->travel(25)->hours();
    app(Sweep::class)->look();
    $this->postJson("/api/sessions/{$session->id}/restore")->assertNotFound();
    $this->deleteJson('/api/storage/media')->assertOk()->assertJsonPath('media', []);
});
