<?php

declare(strict_types=1);

use App\Media\MediaFolder;
use App\Models\Media;
use Hafen\Audio\WavReader;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;
use Tests\Support\Demo;

/** Sends a file in pieces and gives its media id. */
function import(string $name, string $bytes, int $piece = 50_000): string
{
    $id = test()->postJson('/api/uploads', ['name' => $name, 'bytes' => strlen($bytes)])->assertCreated()->json('id');
    for ($at = 0; $at < strlen($bytes); $at += $piece) {
        test()->call('PUT', "/api/uploads/{$id}?offset={$at}", content: substr($bytes, $at, $piece))->assertOk();
    }

    return test()->postJson("/api/uploads/{$id}/finish", ['sampleRate' => 48000])->assertCreated()->json('id');
}

beforeEach(function (): void {
    Demo::wav("{$this->data}/tone.wav", Signal::sine(1000.0, 44100, 0.5, 44100), 44100);
    $this->tone = (string) file_get_contents("{$this->data}/tone.wav");
});

it('takes a WAV in pieces, keeps it untouched and prepares it at the rate of the session', function (): void {
    $id = import('Tone.wav', $this->tone);
    expect($id)->toBe(hash('sha256', $this->tone));
    $this->getJson("/api/media/{$id}?sampleRate=48000")->assertJsonPath('status', 'ready')->assertJsonPath('length', 48000)
        ->assertJsonPath('sampleRate', 44100)->assertJsonPath('channels', 1)->assertJsonCount(400, 'overview')->assertJsonPath('name', 'Tone');
    $folder = app(MediaFolder::class);
    expect(hash_file('sha256', $folder->original(Media::query()->findOrFail($id))))->toBe($id);
    $prepared = WavReader::open($folder->atRate($id, 48000));
    expect($prepared->frames())->toBe(48000)->and(Signal::amplitudeAt($prepared->read(12000, 24000)[0], 1000.0))->toEqualWithDelta(0.5, 0.001);
});

it('stores the same file once', function (): void {
    expect(import('One.wav', $this->tone))->toBe(import('Two.wav', $this->tone))
        ->and(Media::query()->count())->toBe(1)
        ->and(glob("{$this->data}/uploads/*"))->toBe([]);
});

it('survives lost and repeated pieces', function (): void {
    $id = $this->postJson('/api/uploads', ['name' => 'Tone.wav', 'bytes' => strlen($this->tone)])->json('id');
    $send = fn (int $at, int $length) => $this->call('PUT', "/api/uploads/{$id}?offset={$at}", content: substr($this->tone, $at, $length), server: ['HTTP_ACCEPT' => 'application/json']);
    $send(0, 60_000)->assertOk();
    $send(90_000, 1000)->assertUnprocessable()->assertJsonPath('location', 'offset');
    $this->postJson("/api/uploads/{$id}/finish", ['sampleRate' => 48000])->assertUnprocessable()->assertJsonPath('message', '60000 of '.strlen($this->tone).' bytes of Tone.wav have arrived. Send the rest first.');
    $send(0, 60_000)->assertOk()->assertJsonPath('received', 60_000);
    $this->getJson("/api/uploads/{$id}")->assertJsonPath('received', 60_000);
    $send(60_000, strlen($this->tone))->assertOk();
    $send(60_000, 999_999_9)->assertOk();
    $this->call('PUT', "/api/uploads/{$id}?offset=100000", content: $this->tone, server: ['HTTP_ACCEPT' => 'application/json'])->assertUnprocessable()->assertJsonPath('location', 'piece');
    expect($this->postJson("/api/uploads/{$id}/finish", ['sampleRate' => 48000])->json('id'))->toBe(hash('sha256', $this->tone));
});

it('refuses what is no sound, with the reason', function (string $name, callable $bytes, string $says): void {
    $id = import($name, $bytes($this->tone));
    $this->getJson("/api/media/{$id}")->assertJsonPath('status', 'failed');
    expect($this->getJson("/api/media/{$id}")->json('message'))->toContain($says);
})->with([
    'a truncated WAV' => ['Cut.wav', fn (string $tone): string => substr($tone, 0, 5000), 'Truncated'],
    'a text called WAV' => ['Letter.wav', fn (): string => 'Dear all, please find attached', 'Not a WAV file'],
    'a text called FLAC' => ['Letter.flac', fn (): string => 'Dear all, please find attached', 'No sound could be read'],
    'a WAV called FLAC that is cut' => ['Cut.flac', fn (string $tone): string => substr($tone, 0, 200), 'Truncated'],
]);

// Source: a FLAC file made by ffmpeg.
it('decodes other formats with ffmpeg', function (): void {
    Reference::run(['ffmpeg', '-v', 'error', '-i', "{$this->data}/tone.wav", "{$this->data}/tone.flac"], 'ffmpeg');
    $id = import('Tone.flac', (string) file_get_contents("{$this->data}/tone.flac"));
    $this->getJson("/api/media/{$id}?sampleRate=48000")->assertJsonPath('status', 'ready')->assertJsonPath('length', 48000);
});
