<?php

declare(strict_types=1);

use App\Media\Decoder;
use App\Media\DiskRoom;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\Upload;
use App\Storage\Sweep;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;
use Tests\Support\Demo;

/** Sends a file whole, and what becomes of it. @return array<string, mixed> */
function imported(string $name, string $bytes): array
{
    $id = test()->postJson('/api/uploads', ['name' => $name, 'bytes' => strlen($bytes)])->assertCreated()->json('id');
    if ($bytes !== '') {
        test()->call('PUT', "/api/uploads/{$id}", content: $bytes)->assertOk();
    }
    $media = test()->postJson("/api/uploads/{$id}/finish", ['sampleRate' => 48000])->assertCreated()->json('id');

    return test()->getJson("/api/media/{$media}")->assertOk()->json();
}

function ffmpeg(string ...$arguments): void
{
    Reference::run(['ffmpeg', '-v', 'error', '-y', ...$arguments], 'ffmpeg');
}

it('reads no file but the one it was given, whatever that says', function (string $name, string $text): void {
    Demo::wav("{$this->data}/secret.wav", Signal::sine(440.0, 48000, 0.5));
    $media = imported($name, str_replace('SECRET', "{$this->data}/secret.wav", $text));
    expect($media['status'])->toBe('failed')->and($media['message'])->not->toContain($this->data)->not->toContain('.part')
        ->and(glob("{$this->data}/media/*.part"))->toBe([])->and(glob("{$this->data}/media/*decoded*"))->toBe([]);
})->with([
    ['list.m3u8', "#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:1,\nfile:SECRET\n#EXT-X-ENDLIST\n"],
    ['live.mp3', "#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:1,\nfile:SECRET\n"],
    ['song.flac', "#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXT-X-MEDIA-SEQUENCE:0\n#EXTINF:1,\nSECRET\n"],
    ['list.ffconcat', "ffconcat version 1.0\nfile 'SECRET'\n"],
    ['list.mp3', "ffconcat version 1.0\nfile SECRET\n"],
    ['a.sdp', "v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nt=0 0\nm=audio 5004 RTP/AVP 0\n"],
    ['stream.mpd', '<?xml version="1.0"?><MPD xmlns="urn:mpeg:dash:schema:mpd:2011" type="dynamic"><Period><AdaptationSet><Representation><BaseURL>file:SECRET</BaseURL></Representation></AdaptationSet></Period></MPD>'],
    ['meta.txt', ";FFMETADATA1\ntitle=x\n"],
]);

it('says what is wrong with a cut M4A, and not that ffmpeg is missing', function (): void {
    Demo::wav("{$this->data}/tone.wav", Signal::sine(440.0, 48000, 0.5));
    ffmpeg('-i', "{$this->data}/tone.wav", '-c:a', 'aac', "{$this->data}/tone.m4a");
    $bytes = (string) file_get_contents("{$this->data}/tone.m4a");
    expect(imported('Whole.m4a', $bytes)['status'])->toBe('ready');
    $cut = imported('Cut.m4a', substr($bytes, 0, intdiv(strlen($bytes), 2)));
    expect($cut['status'])->toBe('failed')->and($cut['message'])->toContain('No sound could be read from it')->not->toContain('not installed');
});

it('reads the kinds it says it reads', function (string $kind, string ...$codec): void {
    Demo::wav("{$this->data}/tone.wav", Signal::sine(440.0, 48000, 0.5));
    ffmpeg('-i', "{$this->data}/tone.wav", ...$codec, ...["{$this->data}/tone.{$kind}"]);
    $media = imported("Tone.{$kind}", (string) file_get_contents("{$this->data}/tone.{$kind}"));
    expect($media['message'])->toBeNull()->and($media['status'])->toBe('ready')->and($media['length'])->toEqualWithDelta(48000, 6000);
})->with([
    ['flac'], ['aiff'], ['caf'], ['mp3', '-c:a', 'libmp3lame'], ['ogg', '-c:a', 'libvorbis'], ['opus', '-c:a', 'libopus'], ['aac', '-c:a', 'aac'],
    ['m4a', '-c:a', 'alac'], ['wv', '-c:a', 'wavpack'], ['tta'], ['au'], ['mka', '-c:a', 'flac'], ['w64'],
]);

it('refuses what grows far beyond its size', function (): void {
    ffmpeg('-f', 'lavfi', '-i', 'anullsrc=r=48000:cl=stereo', '-t', '2400', '-c:a', 'flac', "{$this->data}/quiet.flac");
    $bytes = (string) file_get_contents("{$this->data}/quiet.flac");
    $media = imported('Quiet.flac', $bytes);
    expect(strlen($bytes))->toBeLessThan(900_000)->and($media['status'])->toBe('failed')->and($media['message'])->toContain('MB of sound');
});

it('decodes no longer than the file declares, and nothing of a decoder that was stopped stays', function (): void {
    Demo::wav("{$this->data}/tone.wav", Signal::sine(440.0, 480_000, 0.5));
    ffmpeg('-i', "{$this->data}/tone.wav", "{$this->data}/tone.flac");
    $decoder = app(Decoder::class);
    // Once at once, and once where the decoder has surely begun.
    $asked = 0;
    $later = static function () use (&$asked): bool {
        return ++$asked < 2;
    };
    ffmpeg('-stream_loop', '60', '-i', "{$this->data}/tone.wav", "{$this->data}/long.flac");
    expect($decoder->decode("{$this->data}/long.flac", "{$this->data}/out.wav", 'Tone', $later))->toBeFalse()
        ->and($decoder->decode("{$this->data}/tone.flac", "{$this->data}/out.wav", 'Tone', static fn (): bool => false))->toBeFalse()
        ->and(glob("{$this->data}/out.wav*"))->toBe([])
        ->and($decoder->decode("{$this->data}/tone.flac", "{$this->data}/out.wav", 'Tone', static fn (): bool => true))->toBeTrue();
    $none = new Decoder(app(DiskRoom::class), '/nowhere/ffmpeg', '/nowhere/ffprobe');
    expect(fn () => $none->decode("{$this->data}/tone.flac", "{$this->data}/more.wav", 'Tone', static fn (): bool => true))->toThrow(App\Media\ImportRefused::class, 'not installed');
});

it('counts samples that are no numbers, says so, and plays silence for them', function (SampleFormat $format, string $pack): void {
    $values = Signal::sine(440.0, 4800, 0.5);
    foreach ([100 => NAN, 101 => INF, 102 => -INF, 2000 => INF] as $at => $value) {
        $values[$at] = $value;
    }
    $writer = WavWriter::create("{$this->data}/odd.wav", new AudioFormat(48000, 1, $format));
    $writer->write([array_fill(0, 4800, 0.0)]);
    $writer->close();
    $bytes = (string) file_get_contents("{$this->data}/odd.wav");
    $data = pack("{$pack}*", ...$values);
    $bytes = substr($bytes, 0, -strlen($data)).$data;
    $media = imported('Odd.wav', $bytes);
    expect($media['status'])->toBe('ready')->and($media['unreadable'])->toBe(4);
    $source = WavReader::open(app(MediaFolder::class)->original(Media::query()->findOrFail($media['id'])));
    $read = $source->read(0, 4800)[0];
    expect([$read[100], $read[101], $read[102], $read[2000]])->toBe([0.0, 0.0, 0.0, 0.0])->and($read[103])->toEqualWithDelta($values[103], 1e-6);
    // And everything that looks at it answers.
    $session = Demo::session();
    edit($session, 1, ['type' => 'put-file', 'channel' => 'cello', 'file' => ['file' => $media['id'], 'length' => 4800, 'width' => 'mono']])->assertOk();
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    $this->getJson("/api/sessions/{$session->id}/survey")->assertOk()->assertJsonPath('current', true);
    $this->getJson("/api/sessions/{$session->id}/moment?at=100")->assertOk();
    $this->getJson("/api/sessions/{$session->id}/channels/cello/musical-key")->assertOk();
    $this->postJson('/api/processors/convolution/picture', ['parameters' => ['recording' => $media['id']], 'sampleRate' => 48000, 'tempo' => 120])->assertSuccessful();
})->with([[SampleFormat::Float32, 'g'], [SampleFormat::Float64, 'e']]);

it('takes one of two that finish the same upload', function (): void {
    Demo::wav("{$this->data}/tone.wav", Signal::sine(440.0, 4800, 0.5));
    $bytes = (string) file_get_contents("{$this->data}/tone.wav");
    $id = $this->postJson('/api/uploads', ['name' => 'Tone.wav', 'bytes' => strlen($bytes)])->json('id');
    $this->call('PUT', "/api/uploads/{$id}", content: $bytes)->assertOk();
    $upload = Upload::query()->findOrFail($id);
    $this->postJson("/api/uploads/{$id}/finish", ['sampleRate' => 48000])->assertCreated();
    // The other had read the upload before the first was done.
    expect(fn () => app(App\Media\Importer::class)->keep($upload, 48000))->toThrow(App\Media\ImportRefused::class, 'finished by another');
});

it('prepares what is there already for another rate too', function (): void {
    Demo::wav("{$this->data}/tone.wav", Signal::sine(440.0, 4800, 0.5));
    $bytes = (string) file_get_contents("{$this->data}/tone.wav");
    $id = imported('Tone.wav', $bytes)['id'];
    $upload = $this->postJson('/api/uploads', ['name' => 'Tone.wav', 'bytes' => strlen($bytes)])->json('id');
    $this->call('PUT', "/api/uploads/{$upload}", content: $bytes)->assertOk();
    $this->postJson("/api/uploads/{$upload}/finish", ['sampleRate' => 44101])->assertCreated();
    expect(is_file(app(MediaFolder::class)->atRate($id, 44101)))->toBeTrue();
});

it('refuses bodies that are larger than announced before they are read', function (): void {
    $id = $this->postJson('/api/uploads', ['name' => 'Tone.wav', 'bytes' => 1000])->json('id');
    $this->call('PUT', "/api/uploads/{$id}", server: ['CONTENT_LENGTH' => '10000000000000', 'HTTP_ACCEPT' => 'application/json'], content: 'x')->assertStatus(413);
    $this->call('PUT', "/api/uploads/{$id}", server: ['CONTENT_LENGTH' => '5000000', 'HTTP_ACCEPT' => 'application/json'], content: 'x')->assertUnprocessable()->assertJsonPath('location', 'piece');
    $this->call('POST', '/api/sessions', server: ['CONTENT_LENGTH' => '5000000', 'HTTP_ACCEPT' => 'application/json'], content: '{}')->assertUnprocessable();
});

it('refuses uploads and renders while what they need is not free, and edits go on', function (): void {
    $session = Demo::session();
    $free = (int) disk_free_space($this->data);
    $this->app->instance(DiskRoom::class, new DiskRoom($this->data, $free - (1 << 20)));
    $this->postJson('/api/uploads', ['name' => 'Long.wav', 'bytes' => 50_000_000])->assertStatus(507)->assertJsonPath('location', 'disk');
    $refused = $this->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f', 'tail' => 600])->assertStatus(507);
    expect($refused->json('message'))->toContain('needs')->toContain('are free');
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -3.0])->assertOk();
    expect(Upload::query()->count())->toBe(0)->and(glob("{$this->data}/{uploads,renders}/*", GLOB_BRACE))->toBe([]);
});

it('removes what killed processes left, but not what is being written', function (): void {
    $folder = app(MediaFolder::class);
    $folder->render('x');
    foreach (['renders/a.wav.0123.part' => 3600, 'renders/b.wav.0123.part' => 5, 'surveys/k.take.0123.part' => 3600, 'renders/c.wav' => 3600] as $name => $age) {
        touch("{$this->data}/{$name}", time() - $age);
    }
    app(Sweep::class)->look();
    expect(array_map(basename(...), glob("{$this->data}/renders/*")))->toBe(['b.wav.0123.part', 'c.wav'])->and(glob("{$this->data}/surveys/*.part"))->toBe([]);
});
