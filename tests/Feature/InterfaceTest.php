<?php

declare(strict_types=1);

use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Audio\WavReader;
use Hafen\Session\Channel\Width;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveInput;
use Hafen\Session\Source\Monitor;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;
use Tests\Support\Demo;

require_once __DIR__.'/../Support/listen.php';

beforeEach(fn () => config(['hafen.lead' => 0.4]));

/** A cello that plays, and two tracks that take the first two inputs. */
function plugged(Monitor $monitor = Monitor::Armed): StoredSession
{
    $taking = static fn (string $id, string $port, Width $width = Width::Mono) => Mix::track($id, [Mix::insert("i-{$id}", 'limiter')], $width)->withSource(new ClipSource([], new LiveInput($port, $monitor)));
    $session = Mix::session([Mix::track('cello', [Mix::insert('i1', 'drive')]), $taking('voice', 'in:1'), $taking('pair', 'in:1-2', Width::Stereo)], [Mix::insert('i3', 'limiter')]);

    // Far below full scale, so that no converter clips.
    return Demo::session($session->withChannel($session->main()->withOutput('hw:1-2')->withFader(-12.0)));
}

/** @param  array<string, mixed>  $change */
function setInterface(array $change): void
{
    test()->putJson('/api/interface', $change)->assertOk();
}

/** @return list<list<float>> */
function soundOf(array $clip): array
{
    $file = WavReader::open(app(MediaFolder::class)->original(Media::query()->findOrFail($clip['file'])));

    return $file->read(0, $file->frames());
}

it('tells how the interface is set, and takes what can be set', function (): void {
    $state = $this->getJson('/api/interface')->assertOk()->json();
    expect($state['inputs'])->toHaveCount(8)->and($state['outputs'])->toHaveCount(8)->and($state['inputs'][0])->toMatchArray(['name' => 'Voice', 'plug' => 'voice'])
        ->and($state['latency'])->toBe(['in' => 152, 'out' => 148, 'roundTrip' => 300]);
    setInterface(['buffer' => 64]);
    setInterface(['input' => 4, 'name' => 'Room', 'plug' => 'cable', 'output' => 2]);
    setInterface(['input' => 4, 'gain' => -6.0]);
    setInterface(['output' => 3, 'name' => 'Headphones']);
    $state = $this->getJson('/api/interface')->json();
    expect($state['buffer'])->toBe(64)->and($state['inputs'][3])->toBe(['name' => 'Room', 'plug' => 'cable', 'gain' => -6, 'output' => 2])->and($state['outputs'][2])->toBe('Headphones')
        ->and($state['latency']['roundTrip'])->toBe(172);
});

it('refuses settings with the field, and keeps what was set', function (array $change, string $place, string $says): void {
    $this->putJson('/api/interface', $change)->assertUnprocessable()->assertJsonPath('location', $place)->assertJsonPath('message', fn (string $message): bool => str_contains($message, $says));
    expect($this->getJson('/api/interface')->json('buffer'))->toBe(128);
})->with([
    [['buffer' => 100], '/buffer', '32, 64, 128'],
    [['input' => 9, 'name' => 'X'], '/input', 'from 1 to 8'],
    [['input' => 1, 'gain' => 99], '/gain', 'from -12 to 60 dB'],
    [['input' => 1, 'plug' => 'piano'], '/plug', '"cable"'],
    [['input' => 5, 'plug' => 'cable'], '/', 'an "output"'],
    [['input' => 5, 'plug' => 'file'], '/', 'a "file"'],
    [['output' => 2, 'name' => ''], '/name', '1'],
    [['loudness' => 1], '/', 'input'],
    [['clear' => 0], '/clear', 'from 1 to 8'],
]);

it('hears a live input while it is armed, tells levels of all inputs, and goes on as it is set', function (): void {
    $session = plugged();
    setInterface(['input' => 1, 'plug' => 'tone', 'gain' => 0.0]);
    $levels = $voice = [];
    $blocks = 0;
    listenTo($session, ['tap' => 'voice:pre-fader', 'interface' => true, 'loop' => ['start' => 0, 'end' => 48000]], function (string $kind, array $data, string $id) use (&$levels, &$voice, &$blocks): bool {
        if ($kind === 'L') {
            expect($data['buffer'])->toBe(128);
        } elseif ($kind === 'N' && $data['kind'] === 'inputs') {
            $levels[] = $data['ports'][1];
        } elseif ($kind === 'A') {
            $voice[] = Signal::peak($data['left']);
            ++$blocks;
            match ($blocks) {
                5 => $this->putJson("/api/listenings/{$id}", ['armed' => ['voice']])->assertOk(),
                80 => setInterface(['input' => 1, 'gain' => 24.0]),
                default => null,
            };
        }

        return $blocks < 160;
    });
    // The levels are read whether it is armed or not; the sound comes with arming. 24 dB more clips.
    expect($levels[0][0])->toEqualWithDelta(-18.0, 0.2)->and($levels[0][1])->toEqualWithDelta(-21.0, 0.2)->and($levels[0][2])->toBe(0)
        ->and(end($levels)[2])->toBeGreaterThan(100)
        ->and(max(array_slice($voice, 0, 5)))->toBe(0.0)
        ->and($voice[60])->toEqualWithDelta(10 ** (-18 / 20), 0.002);
    $clipped = $this->getJson('/api/interface')->json('clipped');
    expect($clipped[1])->toBeGreaterThan(100)->and($clipped)->toHaveCount(1);
    setInterface(['clear' => 1]);
    expect($this->getJson('/api/interface')->json('clipped'))->toBe([]);
});

it('comes and goes without a click as a track is armed and disarmed while it plays', function (bool $isLookedAt): void {
    $session = plugged();
    setInterface(['input' => 1, 'plug' => 'tone', 'gain' => 6.0]);
    setInterface(['input' => 2, 'plug' => 'nothing']);
    $sound = [];
    $blocks = $heard = 0;
    listenTo($session, ['tap' => 'voice:post-fader', 'interface' => $isLookedAt, 'loop' => ['start' => 0, 'end' => 48_000]], function (string $kind, array $data, string $id) use (&$sound, &$blocks, &$heard): bool {
        expect($data['kind'] ?? '')->not->toBe('refused');
        if ($kind === 'A') {
            array_push($sound, ...$data['left']);
            $heard += Signal::peak($data['left']) > 0.1 ? 1 : 0;
            if (++$blocks % 20 === 0) {
                $this->putJson("/api/listenings/{$id}", ['armed' => $blocks % 40 === 0 ? [] : ['voice']])->assertOk();
            }
        }

        return $blocks < 170;
    });
    $jump = 0.0;
    foreach ($sound as $i => $sample) {
        $jump = max($jump, abs($sample - ($sound[$i - 1] ?? 0.0)));
    }
    // The steepest a sine of 1 kHz at -12 dBFS, 3.01 dB down at the centre, gets from sample to sample.
    expect($heard)->toBeGreaterThan(40)->and($jump)->toBeLessThan(1.3 * 10 ** (-15.01 / 20) * 2 * M_PI * 1000 / 48000);
})->with([[false], [true]]);

it('places what is recorded from an input to the sample, from several at once, on tracks that go on taking it', function (int $buffer, int $from): void {
    $session = plugged();
    setInterface(['buffer' => $buffer]);
    setInterface(['input' => 1, 'plug' => 'cable', 'output' => 1, 'gain' => 0.0]);
    setInterface(['input' => 2, 'plug' => 'cable', 'output' => 2, 'gain' => -6.0]);
    $count = 0;
    listenTo($session, ['record' => [['channel' => 'voice', 'tap' => 'input'], ['channel' => 'pair', 'tap' => 'input']]], function (string $kind, array $data) use (&$count): bool {
        $count += $kind === 'A' ? count($data['left']) : 0;

        return $count < 30_000;
    }, $from);
    $library = new MemoryLibrary(['cello' => [Signal::noise(48000, 3, 0.6)]]);
    $main = Mix::render(app(SessionBook::class)->open($session), $library);
    $channels = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id');
    expect($channels['voice']['source'])->toMatchArray(['type' => 'input', 'input' => 'in:1', 'monitor' => 'armed'])->and($channels['voice']['source']['clips'])->toHaveCount(1);
    foreach (['voice' => 1, 'pair' => 2] as $id => $sides) {
        [$clip] = $channels[$id]['source']['clips'];
        $sound = soundOf($clip);
        expect($sound)->toHaveCount($sides)->and($clip['length'])->toBe(count($sound[0]));
        foreach ($sound as $side => $samples) {
            $compared = 0;
            foreach ($samples as $i => $sample) {
                $at = $clip['start'] + $i;
                if ($at >= $from + 600) {
                    $expected = ($side === 0 ? $main->left : $main->right())[$at] * ($side === 0 ? 1.0 : 10 ** (-6 / 20));
                    expect(abs($sample - $expected))->toBeLessThan(1e-6);
                    ++$compared;
                }
            }
            expect($compared)->toBeGreaterThan(20_000);
        }
    }
    // One step takes it away.
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    expect(array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['voice']['source']['clips'])->toBe([]);
})->with([[128, 0], [32, 5000], [1024, 5000]]);

/** A piece of what a browser's microphone hears, sent as a page does. @param  list<float>  $samples */
function hear(int $first, array $samples, ?float $heard, string $id = '0123456789abcdef', int $port = 1): Illuminate\Testing\TestResponse
{
    $query = http_build_query(['id' => $id, 'rate' => 48000, 'first' => $first, 'captured' => (int) (1000 * microtime(true) - count($samples) / 48), ...($heard === null ? [] : ['heard' => $heard])]);

    return test()->call('POST', "/api/interface/microphones/{$port}?{$query}", server: ['HTTP_X_HAFEN' => '1', 'HTTP_ACCEPT' => 'application/json'], content: pack('g*', ...$samples));
}

// Who sings along with what the browser plays is as late as the engine is ahead of it: the loudspeaker's own sound must lie under itself.
it('places what comes from the microphone of a browser where it was heard, to the sample', function (bool $playsBefore): void {
    $session = plugged();
    setInterface(['input' => 1, 'plug' => 'microphone', 'gain' => 0.0]);
    $voice = ['channel' => 'voice', 'tap' => 'input'];
    $first = $count = 0;
    listenTo($session, $playsBefore ? ['side' => 1] : ['record' => [$voice]], function (string $kind, array $data, string $id) use (&$first, &$count, $playsBefore, $voice): bool {
        if ($kind !== 'A') {
            return true;
        }
        // The page hears each piece as it comes, and its microphone hears the loudspeaker.
        hear($first, $data['left'], (float) $data['position'])->assertNoContent();
        $first += count($data['left']);
        $before = $count;
        $count += count($data['left']);
        if ($playsBefore && $before < 15_000 && $count >= 15_000) {
            $this->putJson("/api/listenings/{$id}", ['record' => [$voice]])->assertOk();
        }
        usleep(10_000);

        return $count < 46_000;
    });
    $main = Mix::render(app(SessionBook::class)->open($session), new MemoryLibrary(['cello' => [Signal::noise(48000, 3, 0.6)]]))->left;
    [$clip] = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['voice']['source']['clips'];
    [$sound] = soundOf($clip);
    $compared = 0;
    foreach ($sound as $i => $sample) {
        // It opens over 64 samples.
        if ($i > 2000 && $sample !== 0.0) {
            expect(abs($sample - $main[$clip['start'] + $i]))->toBeLessThan(1e-6);
            ++$compared;
        }
    }
    expect($compared)->toBeGreaterThan(10_000);
})->with([true, false]);

it('keeps of a microphone what was on its way when the take was ended, and when the page was closed', function (bool $playsOn): void {
    $session = plugged();
    setInterface(['input' => 1, 'plug' => 'microphone', 'gain' => 0.0]);
    $first = $count = $ended = 0;
    listenTo($session, ['loop' => ['start' => 0, 'end' => 48000], 'record' => ['channel' => 'voice', 'tap' => 'input']], function (string $kind, array $data, string $id) use (&$first, &$count, &$ended, $playsOn): bool {
        if ($kind !== 'A') {
            return true;
        }
        hear($first, array_fill(0, count($data['left']), 0.25), (float) $data['position']);
        $first += count($data['left']);
        $count += count($data['left']);
        if ($ended === 0 && $count >= 40_000) {
            $ended = $count;
            $playsOn && $this->putJson("/api/listenings/{$id}", ['record' => null])->assertOk();
        }

        return $playsOn ? $count < 140_000 : $ended === 0;
    });
    [$clip] = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['voice']['source']['clips'];
    [$sound] = soundOf($clip);
    $heard = array_keys(array_filter($sound, static fn (float $sample): bool => abs($sample - 0.25) < 1e-6));
    // Less than a tenth of a second of what was sung until then is missing, or more of what came after it is there.
    expect($clip['start'] + end($heard))->toBeGreaterThan($ended - 4800);
})->with([true, false]);

it('records a microphone though no page says what it plays, after a while, and keeps what came until the page was closed', function (): void {
    $session = plugged();
    setInterface(['input' => 1, 'plug' => 'microphone', 'gain' => 0.0]);
    $first = $count = 0;
    listenTo($session, ['record' => ['channel' => 'voice', 'tap' => 'input']], function (string $kind, array $data) use (&$first, &$count): bool {
        if ($kind === 'A') {
            $count += count($data['left']);
            if ($count < 190_000) {
                hear($first, array_fill(0, count($data['left']), 0.25), null);
                $first += count($data['left']);
            }
        }

        return $count < 200_000;
    });
    [$clip] = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['voice']['source']['clips'];
    [$sound] = soundOf($clip);
    // It waited for three seconds; the page was gone for the last fifth of a second, which is silent.
    expect($clip['length'])->toBeGreaterThan(30_000)->toBeLessThan(60_000)->and(count(array_filter($sound, static fn (float $sample): bool => abs($sample - 0.25) < 1e-6)))->toBeGreaterThan(20_000);
});

it('waits for no microphone where what is heard is recorded, on a track that takes one', function (): void {
    $session = plugged(Monitor::Always);
    setInterface(['input' => 1, 'plug' => 'microphone']);
    setInterface(['input' => 2, 'plug' => 'nothing']);
    $main = Mix::render(app(SessionBook::class)->open($session), new MemoryLibrary(['cello' => [Signal::noise(48000, 3, 0.6)]]), frames: 18_000);
    $count = 0;
    listenTo($session, ['record' => ['channel' => 'voice', 'tap' => 'heard']], function (string $kind, array $data) use (&$count): bool {
        $count += $kind === 'A' ? count($data['left']) : 0;

        return $count < 20_000;
    });
    [$clip] = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id')['voice']['source']['clips'];
    expect($clip['start'])->toBe(0)->and($clip['length'])->toBeGreaterThan(18_000);
    [$left] = soundOf($clip);
    expect(max(array_map(static fn (float $a, float $b): float => abs($a - $b), array_slice($left, 2000, 10_000), array_slice($main->left, 2000, 10_000))))->toBeLessThan(1e-4);
});

it('takes from a microphone only what belongs to an input it is plugged into, with the field', function (): void {
    hear(0, [0.5], null)->assertUnprocessable()->assertJsonPath('message', 'No microphone is plugged into input 1.');
    setInterface(['input' => 1, 'plug' => 'microphone']);
    hear(0, [0.5], null)->assertNoContent();
    hear(2048, [0.5], null, 'fedcba9876543210')->assertUnprocessable()->assertJsonPath('location', 'microphone');
    hear(0, [0.5], null, 'no')->assertUnprocessable()->assertJsonPath('location', 'id');
    hear(0, [], null)->assertUnprocessable()->assertJsonPath('location', 'body');
    hear(0, array_fill(0, 65_537, 0.0), null)->assertUnprocessable();
    hear(-1, [0.5], null)->assertUnprocessable()->assertJsonPath('location', 'first');
    hear(0, [0.5], null, port: 9)->assertNotFound();
    $this->call('POST', '/api/interface/microphones/1?id=0123456789abcdef&rate=1&first=0&captured=0', server: ['HTTP_X_HAFEN' => '1'], content: 'abcd')->assertUnprocessable()->assertJsonPath('location', 'rate');
});

it('records past the end of the session, and on an empty one', function (): void {
    $session = plugged();
    setInterface(['input' => 1, 'plug' => 'tone']);
    $count = 0;
    listenTo($session, ['record' => ['channel' => 'voice', 'tap' => 'input']], function (string $kind, array $data) use (&$count): bool {
        $count += $kind === 'A' ? count($data['left']) : 0;

        return $count < 20_000;
    }, 40_000);
    $document = $this->getJson("/api/sessions/{$session->id}")->json('document');
    $clip = array_column($document['channels'], null, 'id')['voice']['source']['clips'][0];
    expect($clip['start'] + $clip['length'])->toBeGreaterThan(55_000)->toBe($document['length'])
        ->and(Signal::peak(soundOf($clip)[0]))->toBeGreaterThan(0.1);
});

it('marks a take that the converter clipped, by how many samples, and no other', function (): void {
    $session = plugged();
    // A sine of 1 kHz at -18 dBFS, 24 dB louder: of the 48 samples of a wave 30 are above full scale.
    setInterface(['input' => 1, 'plug' => 'tone', 'gain' => 24.0]);
    setInterface(['input' => 2, 'plug' => 'tone', 'gain' => 17.9]);
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'set-input', 'channel' => 'cello', 'input' => 'in:2']])->assertOk();
    $count = 0;
    listenTo($session, ['record' => [['channel' => 'voice', 'tap' => 'input'], ['channel' => 'cello', 'tap' => 'input']]], function (string $kind, array $data) use (&$count): bool {
        $count += $kind === 'A' ? count($data['left']) : 0;

        return $count < 20_000;
    });
    $channels = array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'id');
    $clip = $channels['voice']['source']['clips'][0];
    expect($clip['clipped'] / $clip['length'])->toEqualWithDelta(30 / 48, 0.001)->and($channels['cello']['source']['clips'][0])->not->toHaveKey('clipped');
});

it('lets live inputs sound while nothing plays, until it is told to stop', function (): void {
    $session = plugged(Monitor::Always);
    setInterface(['input' => 1, 'plug' => 'tone', 'gain' => 0.0]);
    $count = 0;
    $kinds = [];
    $peak = 0.0;
    listenTo($session, ['standing' => true, 'tap' => 'voice:pre-fader'], function (string $kind, array $data, string $id) use (&$count, &$kinds, &$peak): bool {
        $kinds[] = $kind;
        $before = $count;
        $count += $kind === 'A' ? count($data['left']) : 0;
        $peak = $kind === 'A' ? Signal::peak($data['left']) : $peak;
        if ($before < 60_000 && $count >= 60_000) {
            $this->putJson("/api/listenings/{$id}", ['stopped' => true])->assertOk();
        }

        return true;
    }, 47_000);
    // Longer than the session is.
    expect($count)->toBeGreaterThan(50_000)->and(end($kinds))->toBe('E')->and($peak)->toEqualWithDelta(10 ** (-18 / 20), 0.002);
});

it('compares a live channel with its row bypassed, in blocks of the interface', function (): void {
    $session = plugged(Monitor::Always);
    setInterface(['input' => 1, 'plug' => 'tone', 'gain' => 12.0]);
    setInterface(['input' => 2, 'plug' => 'nothing']);
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'add-insert', 'channels' => ['voice'], 'processor' => 'gain', 'parameters' => ['gain' => -18.0]]])->assertOk();
    $peaks = [];
    $gain = null;
    listenTo($session, ['tap' => 'voice:pre-fader', 'compare' => ['row' => 'voice'], 'side' => 2, 'loop' => ['start' => 0, 'end' => 48000]], function (string $kind, array $data) use (&$peaks, &$gain): bool {
        if ($kind === 'A') {
            $peaks[] = Signal::peak($data['left']);
        } elseif ($kind === 'N' && $data['kind'] === 'compare') {
            $gain = $data['gain'];
        } elseif ($kind === 'N') {
            expect($data['kind'])->not->toBe('refused');
        }

        return count($peaks) < 150;
    });
    // -6 dBFS bypassed, brought down by the 18 dB of the row so that both are as loud.
    expect(end($peaks))->toEqualWithDelta(10 ** (-24 / 20), 0.003)->and($gain)->toEqualWithDelta(-18.0, 0.5);
});

it('begins anew with another buffer', function (): void {
    $notices = $same = [];
    $blocks = 0;
    listenTo(plugged(), ['standing' => true], function (string $kind, array $data) use (&$notices, &$same, &$blocks): bool {
        $notices[] = $kind === 'N' ? $data['kind'] : $kind;
        if ($kind === 'N' && $data['kind'] === 'interface-set') {
            $same[] = $data['isSame'];
        }
        if ($kind === 'A') {
            ++$blocks;
            match ($blocks) {
                3 => setInterface(['input' => 2, 'gain' => 1.0]),
                6 => setInterface(['buffer' => 256]),
                default => null,
            };
        }

        return true;
    });
    expect(array_slice($notices, -2))->toBe(['interface-set', 'E'])->and($same)->toBe([true, false])->and($blocks)->toBeLessThan(9);
});

it('refuses to record what does not come in', function (): void {
    $session = plugged();
    $url = "/api/sessions/{$session->id}/listenings";
    $this->postJson($url, ['record' => ['channel' => 'cello', 'tap' => 'input']])->assertUnprocessable()->assertJsonPath('location', 'record')
        ->assertJsonPath('message', 'Cello takes no input. Choose one for it first.');
    $this->postJson($url, ['record' => [['channel' => 'voice', 'tap' => 'input'], ['channel' => 'voice', 'tap' => 'heard']]])->assertUnprocessable()->assertJsonPath('location', '/record');
    $this->postJson($url, ['armed' => 'voice'])->assertUnprocessable()->assertJsonPath('location', '/armed');
    $this->postJson($url, ['standing' => 1])->assertUnprocessable()->assertJsonPath('location', '/standing');
});

it('says what to change after the loudest passage, and refuses what is no reading', function (): void {
    $this->postJson('/api/interface/levels', ['inputs' => [['input' => 1, 'readings' => [[-26.0, -34, 0]]], ['input' => 2, 'readings' => []]]])->assertOk()
        ->assertJsonPath('advice.1.change', 16)->assertJsonPath('advice.1.gain', 47)->assertJsonPath('advice.2.text', 'Nothing came in. Is it plugged in, and does somebody play?');
    foreach ([[[['input' => 9, 'readings' => []]], '/inputs/0/input'], [[['input' => 1, 'readings' => [[-3, -4]]]], '/inputs/0/readings/0'], [[['input' => 1, 'readings' => [['loud', 0, 0]]]], '/inputs/0/readings/0/0']] as [$inputs, $place]) {
        $this->postJson('/api/interface/levels', ['inputs' => $inputs])->assertUnprocessable()->assertJsonPath('location', $place);
    }
});

it('keeps a file that is plugged in from being removed', function (): void {
    $session = Demo::session();
    setInterface(['input' => 5, 'plug' => 'file', 'file' => 'cello']);
    $this->getJson('/api/interface')->assertJsonPath('inputs.4.fileName', Media::query()->findOrFail('cello')->name);
    StoredSession::query()->findOrFail($session->id)->forceDelete();
    $this->deleteJson('/api/media/cello')->assertStatus(422)->assertJsonPath('message', fn (string $message): bool => str_contains($message, 'the audio interface'));
});
