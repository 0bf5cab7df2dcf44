<?php

declare(strict_types=1);

use App\Hardware\InterfaceDesk;
use App\Hardware\ThroughHardware;
use App\Hardware\UnitTurns;
use App\Hardware\UnitUse;
use App\Jobs\SurveyChannel;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\StoredSession;
use App\Models\SurveyPart;
use App\Sessions\SessionBook;
use Hafen\Audio\WavReader;
use Hafen\Document\JsonNode;
use Hafen\Hardware\AudioInterface;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Hardware\MeasuredDelay;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;
use Tests\Support\Demo;

require_once __DIR__.'/../Support/edit.php';
require_once __DIR__.'/../Support/listen.php';

beforeEach(function (): void {
    config(['hafen.lead' => 0.4]);
    // A cable from output 7 to input 7: what comes back is what went out.
    app(InterfaceDesk::class)->change(JsonNode::parse('{"input": 7, "plug": "cable", "output": 7}', 1000));
});

/** A cello through the cable, and a bass; the delay is that of the interface alone. */
function cabled(bool $isMeasured = true): StoredSession
{
    $loop = new HardwareLoop('l1', 'Cable', 'hw:7', 'in:7', tail: 0.0, delay: $isMeasured ? new MeasuredDelay(300.0, 128) : null);

    return Demo::session(dryMix([new HardwareInsert('h1', 'l1')])->withLoops([$loop]));
}

/** @param  list<Hafen\Session\Insert\Insert>  $row */
function dryMix(array $row = []): Session
{
    return Mix::session([Mix::track('cello', $row), Mix::track('bass')]);
}

function dryLibrary(): MemoryLibrary
{
    return new MemoryLibrary(['cello' => [Signal::noise(48000, 3, 0.6)], 'bass' => [Signal::noise(48000, 4, 0.6)]]);
}

it('pings a loop through the unit that is plugged in there, and sets what it found', function (): void {
    $session = Demo::session();
    edit($session, 1, ['type' => 'add-loop', 'name' => 'Springs', 'send' => 'hw:8', 'return' => 'in:8', 'unit' => 'spring-tank'])->assertOk()->assertJsonPath('document.loops.0.id', 'l1');
    $this->postJson("/api/sessions/{$session->id}/loops/l1/ping")->assertUnprocessable()->assertJsonPath('location', 'ping');
    $this->putJson('/api/interface', ['unit' => 'spring-tank', 'send' => 'hw:8', 'return' => 'in:8', 'inverted' => true, 'knobs' => ['mix' => 0]])->assertOk()->assertJsonPath('inputs.7.plug', 'unit');
    $found = $this->postJson("/api/sessions/{$session->id}/loops/l1/ping")->assertOk();
    expect($found->json('delay.samples'))->toEqualWithDelta(300 + 3.15 * 48, 0.1)->and($found->json('level'))->toEqualWithDelta(-1.4, 0.1)->and($found->json('isInverted'))->toBeTrue();
    edit($session, $session->refresh()->change, ['type' => 'set-loop', 'loop' => 'l1', 'delay' => $found->json('delay'), 'invert' => true, 'returnTrim' => 1.4])->assertOk()->assertJsonPath('undo', 'Return level and polarity and delay of Springs');
    $again = $this->postJson("/api/sessions/{$session->id}/loops/l1/ping")->assertOk()->assertJsonPath('isInverted', false);
    expect($again->json('level'))->toEqualWithDelta(0.0, 0.1);
    // The sheet says how it was set, and what differs now.
    edit($session, $session->refresh()->change, ['type' => 'set-loop', 'loop' => 'l1', 'recall' => ['knobs' => ['dwell' => 6.0, 'mix' => 0.0], 'notes' => '<b>Dry & loud']])->assertOk();
    $this->get("/api/sessions/{$session->id}/recall")->assertOk()->assertSee('Springs')->assertSee('now 5')->assertSee('&lt;b&gt;Dry &amp; loud', false)->assertDontSee('<b>Dry', false);
});

it('refuses a unit in two places at the same time, naming both, and takes it where they do not overlap', function (): void {
    $session = cabled();
    $add = ['type' => 'add-hardware', 'loop' => 'l1', 'channel' => 'bass'];
    edit($session, 1, $add)->assertUnprocessable()->assertJsonPath('location', 'loop')->assertJsonPath('taken.channels', ['cello', 'bass'])
        ->assertJsonPath('message', 'Cable would be on Cello and on Bass, which sound at the same time. A unit is in one place at a time: freeze or print Cello, or bypass it there, and it is free.');
    edit($session, 1, [...$add, 'channel' => 'cello'])->assertUnprocessable();
    // Bypassed there, it is free; and both on is refused again.
    edit($session, 1, ['type' => 'set-insert-on', 'inserts' => ['h1'], 'on' => false])->assertOk();
    edit($session, 2, $add)->assertOk()->assertJsonPath('document.channels.1.inserts.0.type', 'hardware');
    edit($session, 3, ['type' => 'set-insert-on', 'inserts' => ['h1'], 'on' => true])->assertUnprocessable()->assertJsonPath('location', 'loop');
    edit($session, 3, ['type' => 'remove-loop', 'loop' => 'l1'])->assertUnprocessable();
    edit($session, 3, ['type' => 'add-loop', 'name' => 'Other', 'send' => 'hw:7', 'return' => 'in:8'])->assertUnprocessable()->assertJsonPath('message', 'Cable uses a port of "hw:7, in:8" already. Choose others.');
    edit($session, 3, ['type' => 'add-loop', 'name' => 'Other', 'send' => 'hw:1', 'return' => 'in:8'])->assertUnprocessable();
    // Frozen, the cello needs it no more.
    $this->postJson("/api/sessions/{$session->id}/undo");
    $this->postJson("/api/sessions/{$session->id}/undo");
    $this->postJson("/api/sessions/{$session->id}/freezes", ['channels' => ['cello'], 'tail' => 0])->assertAccepted()->assertJsonPath('status', 'done');
    edit($session, $session->refresh()->change, $add)->assertOk();
});

it('freezes, renders and surveys what comes back, to the sample', function (): void {
    $session = cabled();
    $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('hardware', ['seconds' => 1, 'channels' => ['cello', 'main']]);
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted()->assertJsonPath('current', true);
    expect($this->getJson("/api/sessions/{$session->id}/survey")->json('result.taps')['cello:insert:h1']['peak'])->toEqualWithDelta(20 * log10(0.6), 0.01);
    $this->postJson("/api/sessions/{$session->id}/freezes", ['channels' => ['cello'], 'tail' => 0])->assertAccepted()->assertJsonPath('status', 'done');
    $file = app(SessionBook::class)->open($session->refresh())->channel('cello')?->frozen?->file;
    $frozen = WavReader::open((string) app(MediaFolder::class)->asImported((string) $file))->read(0, 48000)[0];
    expect(max(array_map(static fn (float $a, float $b): float => abs($a - $b), $frozen, Signal::noise(48000, 3, 0.6))))->toBeLessThan(1e-6);
});

it('makes nothing where sound would not be lined up, or nothing is plugged in', function (): void {
    $session = cabled(false);
    $freeze = fn () => $this->postJson("/api/sessions/{$session->id}/freezes", ['channels' => ['cello'], 'tail' => 0])->assertAccepted();
    expect($freeze()->json())->toMatchArray(['status' => 'failed'])->and(json_encode($freeze()->json()))->toContain('is not measured yet. Ping it first.');
    edit($session, 1, ['type' => 'set-loop', 'loop' => 'l1', 'delay' => ['samples' => 300, 'buffer' => 128]])->assertOk();
    $this->putJson('/api/interface', ['buffer' => 256]);
    expect(json_encode($freeze()->json()))->toContain('was measured with a buffer of 128 samples, and the interface has 256 now');
    $this->putJson('/api/interface', ['buffer' => 128]);
    $this->putJson('/api/interface', ['input' => 7, 'plug' => 'nothing']);
    expect(json_encode($freeze()->json()))->toContain('Nothing is plugged in where Cable goes out');
    expect(Media::query()->where('name', 'like', '%frozen%')->count())->toBe(0)->and(app(MediaFolder::class)->unfinished())->toBe([]);
    // The bass goes through nothing.
    $this->postJson("/api/sessions/{$session->id}/freezes", ['channels' => ['bass'], 'tail' => 0])->assertAccepted()->assertJsonPath('status', 'done');
});

it('stops a job when its unit is unplugged meanwhile, and keeps nothing', function (): void {
    $session = cabled();
    config(['queue.default' => 'database']);
    $batch = $this->postJson("/api/sessions/{$session->id}/freezes", ['channels' => ['cello'], 'tail' => 0])->assertAccepted()->json('id');
    $part = App\Models\PrintPart::query()->where('batch_id', $batch)->firstOrFail();
    App\Work\Claim::work($part, function (App\Work\Claim $claim) use ($session): void {
        app(ThroughHardware::class)->work(app(SessionBook::class)->open($session), ['cello'], $claim, UnitUse::Asked, function () use ($claim): void {
            expect($claim->beat())->toBeTrue();
            app(InterfaceDesk::class)->change(JsonNode::parse('{"input": 7, "plug": "nothing"}', 1000));
            usleep(400_000);
            $claim->beat();
        });
    });
    expect($part->refresh()->status)->toBe('failed')->and($part->message)->toContain('Cable was unplugged while sound went through it.');
    expect(app(App\Hardware\UnitTurns::class)->want([7], UnitUse::Background)->isMine())->toBeTrue();
});

it('lets one at a time through a unit, who listens first, and nobody waits for who was killed', function (): void {
    $turns = app(UnitTurns::class);
    $first = $turns->want([7], UnitUse::Background);
    $asked = $turns->want([7, 8], UnitUse::Asked);
    $listening = $turns->want([7], UnitUse::Listening);
    $elsewhere = $turns->want([3], UnitUse::Background);
    // Who stands before all others may begin, whoever came first.
    expect([$first->isMine(), $asked->isMine(), $listening->isMine(), $elsewhere->isMine()])->toBe([false, false, true, true]);
    $listening->release();
    expect([$first->isMine(), $asked->isMine()])->toBe([false, true])->and($first->isWanted())->toBeFalse();
    // Whoever sends is not cut off.
    $late = $turns->want([8], UnitUse::Listening);
    expect($late->isMine())->toBeFalse()->and($asked->isWanted())->toBeTrue();
    $asked->release();
    expect([$late->isMine(), $first->isMine()])->toBe([true, true]);
    array_map(static fn ($turn) => $turn->release(), [$late, $first, $elsewhere]);
    // A process that is killed holds nothing.
    $code = 'require $argv[1]; $app = require $argv[2]; $app->make(Illuminate\Contracts\Console\Kernel::class)->bootstrap(); $turn = (new App\Hardware\UnitTurns($argv[3]))->want([7], App\Hardware\UnitUse::Listening); echo $turn->isMine() ? "mine" : "not"; fflush(STDOUT); sleep(60);';
    $folder = config('hafen.data').'/units';
    $process = proc_open([PHP_BINARY, '-r', $code, base_path('vendor/autoload.php'), base_path('bootstrap/app.php'), $folder], [1 => ['pipe', 'w']], $pipes);
    expect(fread($pipes[1], 4))->toBe('mine');
    $waiting = $turns->want([7], UnitUse::Asked);
    expect($waiting->isMine())->toBeFalse();
    proc_terminate($process, SIGKILL);
    fclose($pipes[1]);
    proc_close($process);
    expect($waiting->isMine())->toBeTrue();
    $waiting->release();
    expect(glob("{$folder}/*.{waiting,using,new}", GLOB_BRACE))->toBe([]);
});

it('plays without a unit while something else goes through it, says so, and with it again once it is free', function (): void {
    $session = cabled();
    $turn = app(UnitTurns::class)->want([7], UnitUse::Asked);
    expect($turn->isMine())->toBeTrue();
    $heard = [];
    $told = [];
    listenTo($session, ['side' => 1], function (string $kind, array $data) use (&$heard, &$told, $turn): bool {
        if ($kind === 'A') {
            $heard = [...$heard, ...$data['left']];
        }
        if ($kind === 'N' && ($data['kind'] ?? '') === 'units') {
            $told[] = $data['busy'];
        }
        if (count($heard) > 12000) {
            $turn->release();
        }

        return count($heard) < 44000;
    });
    expect($told)->toBe([['Cable'], []]);
    // Without it and with it the same sound at the same place: a cable changes nothing.
    $wanted = Mix::render(dryMix(), dryLibrary(), frames: count($heard))->left;
    $most = 0.0;
    foreach ($heard as $i => $sample) {
        $most = max($most, abs($sample - $wanted[$i]));
    }
    expect($most)->toBeLessThan(1e-4);
});

it('works in longer blocks while nobody hears a live input, begins anew with short ones as one is heard, but not in the middle of a take', function (bool $isRecording): void {
    $session = cabled();
    edit($session, 1, ['type' => 'set-input', 'channel' => 'bass', 'input' => 'in:2', 'monitor' => 'armed'])->assertOk();
    $told = $buffers = [];
    $blocks = 0;
    listenTo($session, ['side' => 1], function (string $kind, array $data, string $id) use (&$told, &$buffers, &$blocks, $isRecording): bool {
        if ($kind === 'L') {
            $buffers[] = $data['buffer'];
        }
        if ($kind === 'N' && in_array($data['kind'], ['interface-set', 'heard-late'], true)) {
            $told[] = $data['kind'] === 'heard-late' ? $data['milliseconds'] : $data['isSame'];
        }
        if ($kind === 'A' && ++$blocks === 2 && $isRecording) {
            test()->putJson("/api/listenings/{$id}", ['side' => 1, 'record' => [['channel' => 'cello', 'tap' => 'heard']]])->assertOk();
        }
        if ($kind === 'A' && $blocks === 4) {
            test()->putJson("/api/listenings/{$id}", ['side' => 1, 'armed' => ['bass'], ...($isRecording ? ['record' => [['channel' => 'cello', 'tap' => 'heard']]] : [])])->assertOk();
        }

        return true;
    });
    expect(array_unique($buffers))->toBe([512]);
    // 384 samples more each way.
    $isRecording ? expect($told)->toBe([16.0]) : expect($told)->toBe([false])->and($blocks)->toBe(4);
    // It is opened as short as it is set where a live input is heard from the start.
    listenTo($session, ['armed' => ['bass']], function (string $kind, array $data) use (&$buffers): bool {
        $buffers[] = $data['buffer'] ?? null;

        return $kind !== 'A';
    });
    expect(array_filter($buffers))->toContain(128);
})->with([false, true]);

it('refuses to compare what comes before a unit, as only one sound goes through it', function (): void {
    $session = Demo::session(Mix::session([Mix::track('cello', [Mix::insert('i1', 'drive'), new HardwareInsert('h1', 'l1'), Mix::insert('i2', 'drive')]), Mix::track('bass')])
        ->withLoops([new HardwareLoop('l1', 'Cable', 'hw:7', 'in:7', tail: 0.0, delay: new MeasuredDelay(300.0, 128))]));
    foreach (['i1' => true, 'i2' => false, 'h1' => false] as $insert => $isRefused) {
        $notices = [];
        listenTo($session, ['compare' => ['insert' => $insert]], function (string $kind, array $data) use (&$notices): bool {
            $notices[] = $kind === 'N' ? $data['kind'].($data['message'] ?? '') : '';

            return count($notices) < 12;
        });
        expect(str_contains(implode(' ', $notices), 'only one sound at a time goes through it'))->toBe($isRefused, $insert);
    }
});

it('leaves a unit to who listens, and measures through it later', function (): void {
    $session = cabled();
    config(['queue.default' => 'database']);
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    $part = SurveyPart::query()->where('channel', 'cello')->firstOrFail();
    $listening = null;
    // Somebody begins to listen while the cello is measured.
    $begin = static function () use (&$listening): void {
        $listening ??= app(UnitTurns::class)->want([7], UnitUse::Listening);
    };
    SurveyPart::query()->whereKey($part->id)->update(['status' => 'waiting']);
    App\Work\Claim::work($part->refresh(), function (App\Work\Claim $claim) use ($session, $begin): void {
        $opened = app(SessionBook::class)->open($session);
        try {
            app(ThroughHardware::class)->work($opened, ['cello'], $claim, UnitUse::Background, function (?AudioInterface $interface) use ($claim, $begin): void {
                expect($interface)->not->toBeNull();
                expect($claim->beat())->toBeTrue();
                $begin();
                for ($i = 0; $i < 40 && $claim->beat(); ++$i) {
                    usleep(50_000);
                }
                expect($claim->isLeaving())->toBeTrue();
            });
        } catch (Hafen\Printing\RenderStopped) {
        }
    });
    expect($listening?->isMine())->toBeTrue()->and($part->refresh()->status)->toBe('waiting')->and($part->attempts)->toBe(0);
    $listening->release();
    (new SurveyChannel($part->id))->handle(app(App\Surveys\SurveyDesk::class));
    expect($part->refresh()->status)->toBe('done');
});
