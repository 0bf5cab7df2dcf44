<?php

declare(strict_types=1);

use App\Listening\Frames;
use App\Listening\ListeningStream;
use App\Media\MediaFolder;
use App\Models\Listening;
use App\Models\Media;
use App\Models\StoredSession;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Takes\TakeKeeper;
use Hafen\Audio\WavReader;
use Hafen\Engine\Engine;
use Hafen\Engine\Tap;
use Hafen\Session\Channel\Width;
use Hafen\Tests\Support\Mix;
use Tests\Support\Demo;

beforeEach(fn () => config(['hafen.lead' => 0.4]));

/** Two tracks through a limiter that looks ahead, and an empty one. */
function recordable(): StoredSession
{
    return Demo::session(Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'drive')]),
        Mix::track('bass', [Mix::insert('i2', 'compressor')])->withFader(-6.0),
        Mix::track('takes', [], Width::Stereo)->withSource(new Hafen\Session\Source\ClipSource),
    ], [Mix::insert('i3', 'limiter')]));
}

/**
 * Plays and records.
 *
 * @param  array<string, mixed>  $options
 * @param  ?callable(int): bool  $goOn  gets how many frames of sound have come; false closes the browser
 */
function recorded(StoredSession $session, array $options, int $from = 0, ?callable $goOn = null): void
{
    $id = test()->postJson("/api/sessions/{$session->id}/listenings", $options)->assertCreated()->json('id');
    $frames = app(ListeningStream::class)->frames(Listening::query()->findOrFail($id), $from);
    $count = 0;
    foreach ($frames as $frame) {
        if ($frame !== Frames::HEADER && $frame[0] === 'A' && $goOn !== null && ! $goOn(++$count)) {
            break;
        }
    }
    unset($frames);
}

/** @return list<list<float>> sides of a clip's file */
function takeOf(array $clip): array
{
    $file = WavReader::open(app(MediaFolder::class)->original(Media::query()->findOrFail($clip['file'])));

    return $file->read(0, $file->frames());
}

// Source: a render of the same place, by the engine alone.
it('records where it was played, to the sample, what a render makes of it where nothing is moved', function (string $tap, int $from): void {
    $session = recordable();
    recorded($session, ['record' => ['channel' => 'takes', 'tap' => $tap]], $from);
    $state = $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('undo', 'Record on Takes');
    $clip = array_column($state->json('document.channels'), null, 'id')['takes']['source']['clips'][0];
    $take = takeOf($clip);
    $opened = app(SessionBook::class)->open($session->refresh());
    $before = $opened->withChannel($opened->channel('takes')->withSource(new Hafen\Session\Source\ClipSource));
    $engine = new Engine(app(EngineFactory::class)->compiler(48000), $before, 512, false);
    $engine->listenAt($tap === 'heard' ? new Tap('main') : Tap::fromString($tap));
    $engine->start(0);
    $rendered = Mix::take($engine, 48000);
    $worst = 0.0;
    // What compressors remember from before is in the pre-roll; after a moment nothing of it is left.
    for ($i = $from === 0 ? 0 : 4800; $i < min(count($take[0]), 48000 - $clip['start']); ++$i) {
        $worst = max($worst, abs($take[0][$i] - $rendered->left[$clip['start'] + $i]));
    }
    expect($worst)->toBeLessThan(1e-5)// A tap before the one that is heard is ahead of it by the latency in between.
        ->and(abs($clip['start'] - $from))->toBeLessThan(2000)
        ->and($clip['start'] + $clip['length'])->toBeGreaterThanOrEqual(47000)
        ->and($clip['printedFrom']['tap'])->toBe($tap === 'heard' ? 'main' : explode(':', $tap)[1])
        ->and(count($take))->toBe($tap === 'cello:source' ? 1 : 2);
})->with(['heard', 'main:post-fader', 'bass:post-fader', 'cello:source'])->with([0, 12000]);

it('has the moves that are made meanwhile, and keeps what the track played', function (): void {
    $session = recordable();
    $clip = $this->getJson("/api/sessions/{$session->id}")->json('document.channels.0.source.clips.0.file');
    recorded($session, ['record' => ['channel' => 'cello', 'tap' => 'bass:post-fader']], 0, function (int $count) use ($session): bool {
        if ($count === 8) {
            edit($session, $session->refresh()->change, ['type' => 'set-mute', 'channels' => ['bass'], 'mute' => true])->assertOk();
        }

        return true;
    });
    $cello = $this->getJson("/api/sessions/{$session->id}")->json('document.channels.0');
    $take = takeOf($cello['source']['clips'][0])[0];
    $peak = static fn (array $part): float => max(array_map(abs(...), $part));
    expect($peak(array_slice($take, 0, 6000)))->toBeGreaterThan(0.05)->and($peak(array_slice($take, 30000)))->toBe(0.0)
        ->and($cello['versions'][0]['name'])->toBe('Before the take')->and($cello['versions'][0]['clips'][0]['file'])->toBe($clip);
});

it('makes a take of each pass of a loop, each where it was played', function (): void {
    $session = recordable();
    recorded($session, ['loop' => ['start' => 9600, 'end' => 24000], 'record' => ['channel' => 'takes', 'tap' => 'main:post-fader']], 9600, static fn (int $count): bool => $count < 32);
    $takes = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['takes'];
    $passes = [...array_map(static fn (array $version): array => $version['clips'][0], $takes['versions']), $takes['source']['clips'][0]];
    $whole = array_slice($passes, 1, -1);
    expect(count($passes))->toBeGreaterThanOrEqual(3)->and(array_unique(array_column($whole, 'start')))->toBe([9600])->and(array_unique(array_column($whole, 'length')))->toBe([14400]);
    // Two whole passes carry the same sound, but for what their start remembers.
    if (count($whole) > 1) {
        $one = array_slice(takeOf($whole[0])[0], 7000);
        $other = array_slice(takeOf($whole[1])[0], 7000);
        expect(max(array_map(static fn (float $a, float $b): float => abs($a - $b), $one, $other)))->toBeLessThan(1e-4);
    }
});

it('keeps what was recorded when the browser is closed, and leaves nothing unfinished', function (): void {
    $session = recordable();
    recorded($session, ['record' => ['channel' => 'takes', 'tap' => 'heard']], 0, static fn (int $count): bool => $count < 5);
    $takes = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['takes'];
    expect($takes['source']['clips'][0]['length'])->toBeGreaterThan(4000)->toBeLessThan(12000)
        ->and(app(MediaFolder::class)->unfinished())->toBe([]);
});

it('records inside a range only, after a count-in before the start of the session, to the sample', function (): void {
    $session = recordable();
    recorded($session, ['record' => ['channel' => 'takes', 'tap' => 'main:post-fader'], 'punch' => ['from' => 4801, 'to' => 9602]], -9600, static fn (int $count): bool => $count < 25);
    $clip = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['takes']['source']['clips'][0];
    expect($clip)->toMatchArray(['start' => 4801, 'length' => 4801]);
    $opened = app(SessionBook::class)->open($session->refresh());
    $engine = new Engine(app(EngineFactory::class)->compiler(48000), $opened->withChannel($opened->channel('takes')->withSource(new Hafen\Session\Source\ClipSource)), 512, false);
    $engine->start(0);
    $wanted = array_slice(Mix::take($engine, 9602)->left, 4801);
    foreach (takeOf($clip)[0] as $i => $sample) {
        expect(abs($sample - $wanted[$i]))->toBeLessThan(1e-6);
    }
    foreach ([['from' => -1], ['from' => 10, 'to' => 10], ['to' => 5], 'now'] as $punch) {
        $this->postJson("/api/sessions/{$session->id}/listenings", ['punch' => $punch])->assertUnprocessable();
    }
});

it('keeps what was recorded up to the moment its process was killed, at its place, and nothing of one that had not begun', function (): void {
    $session = recordable();
    $folder = config('hafen.data').'/takes';
    @mkdir($folder, 0o775, true);
    $code = 'require $argv[1]; $journal = App\\Takes\\TakeJournal::begin($argv[2], (int) $argv[3], new App\\Takes\\RecordWish("takes", "main:post-fader"));
        $writer = new Hafen\\Printing\\TakeWriter($journal->take(...), new Hafen\\Audio\\AudioFormat(48000, 2, Hafen\\Audio\\SampleFormat::Float32), 100);
        for ($i = 0, $at = 4900; $i < 20; ++$i, $at += 512) {
            // A loop that begins anew: two takes, the second unfinished.
            if ($i === 10) { $at = 2400; }
            $writer->take(new Hafen\\Audio\\Block(array_fill(0, 512, 0.25), array_fill(0, 512, -0.5)), $at);
        }
        $begun = new Hafen\\Printing\\TakeWriter(App\\Takes\\TakeJournal::begin($argv[2], (int) $argv[3], new App\\Takes\\RecordWish("bass", "heard"))->take(...), new Hafen\\Audio\\AudioFormat(48000, 1, Hafen\\Audio\\SampleFormat::Float32), 9000);
        $begun->take(new Hafen\\Audio\\Block(array_fill(0, 512, 0.25), [], true), 0);
        echo "written"; fflush(STDOUT); sleep(60);';
    $process = proc_open([PHP_BINARY, '-r', $code, base_path('vendor/autoload.php'), $folder, (string) $session->id], [1 => ['pipe', 'w']], $pipes);
    expect(fread($pipes[1], 7))->toBe('written');
    // While it runs it is its own.
    expect(app(TakeKeeper::class)->look())->toBe(0);
    proc_terminate($process, SIGKILL);
    fclose($pipes[1]);
    proc_close($process);
    // As a console command has it.
    pcntl_async_signals(true);
    try {
        expect(app(TakeKeeper::class)->look())->toBe(2);
    } finally {
        pcntl_async_signals(false);
    }
    $takes = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['takes'];
    expect($takes['source']['clips'][0])->toMatchArray(['start' => 2400, 'length' => 10 * 512 - 100])
        ->and($takes['versions'][0]['clips'][0])->toMatchArray(['start' => 4800, 'length' => 10 * 512 + 100]);
    expect(array_unique(takeOf($takes['source']['clips'][0])[0]))->toBe([0.25])->and(array_unique(takeOf($takes['source']['clips'][0])[1]))->toBe([-0.5])
        ->and(glob("{$folder}/*"))->toBe([])->and(app(TakeKeeper::class)->look())->toBe(0);
});

it('leaves what was recorded to another process while it plays on, so that nothing holds the sound up', function (): void {
    $session = recordable();
    config(['queue.default' => 'database']);
    $before = $session->change;
    recorded($session, ['record' => ['channel' => 'takes', 'tap' => 'heard']], 0, function (int $count) use ($session): bool {
        if ($count === 5) {
            $this->putJson('/api/listenings/'.Listening::query()->firstOrFail()->id, ['record' => null])->assertOk();
        }
        if ($count === 8) {
            expect($session->refresh()->change)->toBe(1)->and(app(TakeKeeper::class)->look())->toBe(1)->and($session->refresh()->change)->toBe(2);
        }

        return $count < 9;
    });
    expect($session->refresh()->change)->toBe($before + 1);
});

it('stops where the disk is full, says so, and keeps what was recorded until then', function (): void {
    $session = recordable();
    $room = "{$this->data}/room";
    symlink($this->data, $room);
    $this->app->instance(App\Media\DiskRoom::class, new App\Media\DiskRoom($room, 0));
    $id = $this->postJson("/api/sessions/{$session->id}/listenings", ['record' => ['channel' => 'takes', 'tap' => 'heard'], 'loop' => ['start' => 0, 'end' => 48000]])->json('id');
    $said = [];
    $frames = 0;
    foreach (app(ListeningStream::class)->frames(Listening::query()->findOrFail($id), 0) as $frame) {
        $frames += $frame[0] === 'A' ? unpack('V', substr($frame, 13, 4))[1] : 0;
        if ($frames > 100_000 && readlink($room) !== '/proc') {
            // Nothing is free there.
            unlink($room);
            symlink('/proc', $room);
        }
        if ($frame[0] === 'N' && str_contains($frame, 'refused')) {
            $said[] = json_decode(substr($frame, 5), true)['message'];
        }
    }
    unlink($room);
    expect($said)->toHaveCount(1)->and($said[0])->toContain('The recording stopped, and what was recorded until then is kept. The recording needs');
    $takes = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['takes'];
    // Five passes and more: it is looked every five seconds whether there is room.
    expect(count($takes['versions']))->toBeGreaterThan(3)->and($takes['versions'][0]['clips'][0])->toMatchArray(['start' => 0, 'length' => 48000]);
});

it('says which recordings are over and not on their tracks yet, until all of them are, one at a time', function (): void {
    $session = recordable();
    config(['queue.default' => 'database']);
    $state = fn (): array => $this->getJson("/api/sessions/{$session->id}")->json('recorded');
    recorded($session, ['record' => [['channel' => 'takes', 'tap' => 'heard'], ['channel' => 'bass', 'tap' => 'cello:post-fader']]], 0, function (int $count) use ($state): bool {
        // What is still recorded does not wait.
        expect($state())->toBe([]);

        return $count < 4;
    });
    expect($state())->toEqualCanonicalizing(['takes', 'bass'])->and(app(TakeKeeper::class)->waiting($session->id + 1))->toBe([]);
    $keeper = app(TakeKeeper::class);
    expect($keeper->look(1))->toBe(1)->and($state())->toHaveCount(1)->and($keeper->look(1))->toBe(1)->and($state())->toBe([])->and($session->refresh()->change)->toBe(3);
});

it('keeps takes in the library where their track is gone by then', function (): void {
    $session = recordable();
    $media = Media::query()->count();
    recorded($session, ['record' => ['channel' => 'takes', 'tap' => 'heard']], 0, function (int $count) use ($session): bool {
        if ($count === 4) {
            edit($session, $session->refresh()->change, ['type' => 'remove-channels', 'channels' => ['takes']])->assertOk();
        }

        return $count < 8;
    });
    expect(Media::query()->count())->toBe($media + 1)->and(Media::query()->where('name', 'Recording take 1')->exists())->toBeTrue();
    $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('notice', fn (?string $notice): bool => str_contains((string) $notice, 'It is kept among the recordings, as "Recording take 1".'));
    // Until the next change.
    edit($session, $session->refresh()->change, ['type' => 'set-fader', 'channels' => ['main'], 'gain' => -1])->assertOk()->assertJsonPath('notice', null);
});

it('refuses what cannot be recorded with the field', function (array $record, string $place): void {
    $session = recordable();
    $this->postJson("/api/sessions/{$session->id}/listenings", ['record' => $record])->assertUnprocessable()->assertJsonPath('location', $place);
})->with([
    'tap' => [['channel' => 'takes', 'tap' => 'nobody:source'], '/record/tap'],
    'stage' => [['channel' => 'takes', 'tap' => 'cello:insert:i1'], '/record/tap'],
    'the main' => [['channel' => 'main', 'tap' => 'heard'], 'record'],
    'nobody' => [['channel' => 'nobody', 'tap' => 'heard'], 'record'],
]);
