<?php

declare(strict_types=1);

use App\Listening\ListeningStream;
use App\Models\Listening;
use App\Models\Render;
use App\Work\Claim;
use App\Work\PlaybackLoad;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveInput;
use Hafen\Tests\Support\Mix;
use Tests\Support\Demo;

// Playing comes before all background work: what streams tell, and what workers make of it.

beforeEach(function (): void {
    $this->now = 1000.0;
    $this->folder = sys_get_temp_dir().'/playback-'.bin2hex(random_bytes(6));
    $this->load = fn (int $cores = 2): PlaybackLoad => new PlaybackLoad($this->folder, $cores, fn (): float => $this->now);
    // What the application tells and reads is what this test does.
    app()->instance(PlaybackLoad::class, ($this->load)());
});
afterEach(function (): void {
    array_map(unlink(...), glob("{$this->folder}/*") ?: []);
    @rmdir($this->folder);
});

it('leaves workers all of the machine while nothing plays, also where nothing ever played', function (): void {
    $load = ($this->load)();
    expect($load->needed())->toBe(0.0)->and($load->shareOfWorker())->toBe(1.0);
    $load->end('nobody');
    expect($load->shareOfWorker())->toBe(1.0);
});

it('adds up what plays, and forgets a stream that ended, or is not heard of any more', function (): void {
    $load = ($this->load)();
    $load->tell('one', 0.3);
    $load->tell('two', 0.4);
    expect($load->needed())->toEqualWithDelta(0.7, 1e-6);
    $load->end('two');
    expect($load->needed())->toEqualWithDelta(0.3, 1e-6);
    $this->now += 2.0;
    expect($load->needed())->toEqualWithDelta(0.3, 1e-6);
    $this->now += 1.0;
    expect($load->needed())->toBe(0.0)->and($load->shareOfWorker())->toBe(1.0);
});

it('takes a file that is broken for nobody', function (): void {
    $load = ($this->load)();
    $load->tell('one', 0.2);
    file_put_contents("{$this->folder}/playing-broken", 'x');
    file_put_contents("{$this->folder}/playing-empty", '');
    expect($load->needed())->toEqualWithDelta(0.2, 1e-6);
});

it('leaves workers what playing does not need', function (int $cores, float $playing, float $share): void {
    $load = ($this->load)($cores);
    $load->tell('one', $playing);
    expect($load->shareOfWorker())->toEqualWithDelta($share, 1e-6);
})->with([
    'a light session on two cores' => [2, 0.1, 0.4],
    'the demo on two cores' => [2, 0.35, 0.15],
    'half a core of two' => [2, 0.5, 0.0],
    'more than can be played' => [2, 3.0, 0.0],
    'one core only' => [1, 0.1, 0.0],
    'eight cores' => [8, 0.5, 0.75],
    'eight cores, all needed' => [8, 4.0, 0.0],
]);

it('has a worker wait until playing ends, and lets it go on then', function (): void {
    $render = Render::query()->create(['session_id' => Demo::session()->id, 'name' => 'Test', 'status' => 'waiting', 'options' => [], 'document' => '']);
    // Each look at the clock is half a second later: the stream is not heard of any more.
    $looks = 0;
    app()->instance(PlaybackLoad::class, new PlaybackLoad($this->folder, 2, function () use (&$looks): float {
        return 1000.0 + 0.5 * $looks++;
    }));
    app(PlaybackLoad::class)->tell('one', 0.9);
    $goOn = null;
    Claim::work($render, function (Claim $claim) use (&$goOn): void {
        $goOn = $claim->beat(1, 2);
        $claim->finish(['status' => 'done']);
    });
    expect($goOn)->toBeTrue()
        ->and($looks)->toBeGreaterThanOrEqual(5)
        ->and($render->refresh()->status)->toBe('done')
        ->and($render->beat_at)->not->toBeNull();
});

it('stops a worker that waits when somebody wants that', function (): void {
    $render = Render::query()->create(['session_id' => Demo::session()->id, 'name' => 'Test', 'status' => 'waiting', 'options' => [], 'document' => '']);
    app(PlaybackLoad::class)->tell('one', 5.0);
    $goOn = null;
    Claim::work($render, function (Claim $claim) use ($render, &$goOn): void {
        $render->newQuery()->whereKey($render->id)->update(['status' => 'stopping']);
        usleep(350_000);
        $goOn = $claim->beat(1, 2);
        $claim->finish(['status' => 'stopped']);
    });
    expect($goOn)->toBeFalse()->and($render->refresh()->status)->toBe('stopped');
});

it('is told of by a stream while it plays, and not after', function (): void {
    $session = Demo::session();
    $id = $this->postJson("/api/sessions/{$session->id}/listenings", ['side' => 1])->assertCreated()->json('id');
    $load = app(PlaybackLoad::class);
    $needed = [];
    foreach (app(ListeningStream::class)->frames(Listening::query()->findOrFail($id), 0) as $frame) {
        $needed[] = $load->needed();
    }
    expect(max($needed))->toBeGreaterThan(0.0)
        ->and($load->needed())->toBe(0.0)
        ->and(glob("{$this->folder}/playing-*"))->toBe([]);
    // A listener who leaves ends it too.
    $id = $this->postJson("/api/sessions/{$session->id}/listenings", ['side' => 1])->json('id');
    $frames = app(ListeningStream::class)->frames(Listening::query()->findOrFail($id), 0);
    foreach ([1, 2, 3, 4, 5, 6] as $step) {
        $frames->next();
    }
    expect($load->needed())->toBeGreaterThan(0.0);
    unset($frames);
    expect($load->needed())->toBe(0.0);
});

it('holds nothing back for who only looks at the levels of inputs, and all for who hears one', function (): void {
    $voice = Mix::track('voice')->withSource(new ClipSource([], new LiveInput('in:1')));
    $session = Demo::session(Mix::session([Mix::track('cello'), $voice]));
    $id = $this->postJson("/api/sessions/{$session->id}/listenings", ['standing' => true, 'interface' => true])->assertCreated()->json('id');
    $pieces = 0;
    $needed = [];
    foreach (app(ListeningStream::class)->frames(Listening::query()->findOrFail($id), 0) as $frame) {
        if ($frame[0] !== 'A') {
            continue;
        }
        ++$pieces;
        // What it said as it began counts no more.
        $this->now += $pieces === 2 ? 3.0 : 0.0;
        if ($pieces === 30) {
            $needed[] = app(PlaybackLoad::class)->needed();
            $this->putJson("/api/listenings/{$id}", ['armed' => ['voice']])->assertOk();
        } elseif ($pieces === 120) {
            $needed[] = app(PlaybackLoad::class)->needed();
            break;
        }
    }
    expect($needed[0])->toBe(0.0)->and($needed[1])->toBeGreaterThan(0.0);
});
