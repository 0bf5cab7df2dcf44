<?php

declare(strict_types=1);

use App\Jobs\PrintChannel;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\PrintBatch;
use App\Models\PrintPart;
use App\Models\StoredSession;
use App\Models\Upload;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Sessions\SessionBundle;
use App\Work\Claim;
use App\Work\Supervisor;
use Hafen\Audio\Block;
use Hafen\Engine\Engine;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Source\BusSource;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Tests\Support\Mix;
use Illuminate\Support\Facades\Queue;
use Tests\Support\Demo;

/** The whole of the main as the application plays it. */
function playedBy(StoredSession $stored): Block
{
    $session = app(SessionBook::class)->open($stored->refresh());
    $engine = new Engine(app(EngineFactory::class)->compiler($session->sampleRate), $session, 512, false);
    $engine->start(0);

    return Mix::take($engine, $session->length);
}

function grouped(): StoredSession
{
    return Demo::session(Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter'), Mix::insert('i2', 'compressor')])->withOutput('reeds'),
        Mix::track('bass', [Mix::insert('i3', 'drive')])->withOutput('reeds'),
        Mix::bus('reeds', ChannelKind::Group, [Mix::insert('i4', 'limiter')]),
    ]));
}

/** @param  list<string>  $channels */
function freezing(StoredSession $session, array $channels, array $options = []): Illuminate\Testing\TestResponse
{
    return test()->postJson("/api/sessions/{$session->id}/freezes", ['channels' => $channels, ...$options]);
}

it('freezes several channels as one step that sounds the same, refuses edits of them, and unfreezes', function (): void {
    $session = Demo::session();
    $before = playedBy($session);
    freezing($session, ['cello', 'bass'], ['format' => '64f', 'tail' => 0.5])->assertAccepted()->assertJsonPath('status', 'done')->assertJsonPath('progress', 1);
    $state = $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('undo', 'Freeze 2 channels');
    expect($state->json('frozen'))->toBe(['cello' => ['stale' => false, 'playable' => true], 'bass' => ['stale' => false, 'playable' => true]])
        ->and($state->json('document.channels.0.frozen.tail'))->toBe(0.5)
        ->and(playedBy($session))->toEqual($before);
    edit($session, $state->json('change'), ['type' => 'set-trim', 'channels' => ['cello', 'bass'], 'gain' => -3.0])->assertUnprocessable()
        ->assertJsonPath('location', 'frozen')->assertJsonPath('unfreeze', ['cello', 'bass'])->assertJsonPath('message', 'Cello, Bass are frozen, and this would change their sound. Unfreeze them first.');
    // In one press: unfrozen and done, as one step.
    edit($session, $state->json('change'), ['type' => 'several', 'label' => 'Trim', 'edits' => [['type' => 'unfreeze', 'channels' => ['cello', 'bass']], ['type' => 'set-trim', 'channels' => ['cello', 'bass'], 'gain' => -3.0]]])
        ->assertOk()->assertJsonPath('frozen', [])->assertJsonPath('undo', 'Trim');
    $this->postJson("/api/sessions/{$session->id}/undo")->assertJsonPath('frozen.cello.stale', false);
    $this->postJson("/api/sessions/{$session->id}/undo")->assertJsonPath('frozen', []);
    $this->postJson("/api/sessions/{$session->id}/redo")->assertJsonPath('frozen.bass.playable', true);
});

it('takes no time for what was frozen before', function (): void {
    $session = Demo::session();
    freezing($session, ['cello']);
    edit($session, $session->refresh()->change, ['type' => 'unfreeze', 'channels' => ['cello']])->assertOk();
    Queue::fake();
    freezing($session, ['cello'])->assertJsonPath('status', 'done');
    Queue::assertNothingPushed();
    expect(Media::query()->where('frozen_from', 'Cello')->count())->toBe(1)
        ->and($this->getJson("/api/sessions/{$session->id}")->json('frozen.cello.stale'))->toBeFalse();
    // Another tail is another file.
    edit($session, $session->refresh()->change, ['type' => 'unfreeze', 'channels' => ['cello']]);
    freezing($session, ['cello'], ['tail' => 0])->assertJsonPath('status', 'running');
    Queue::assertPushed(PrintChannel::class, 1);
});

it('says so when what feeds a frozen group changed, and renews it', function (): void {
    $session = grouped();
    freezing($session, ['reeds'])->assertJsonPath('status', 'done');
    edit($session, $session->refresh()->change, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -6.0])->assertOk()->assertJsonPath('frozen.reeds.stale', true);
    $advice = collect($this->getJson("/api/sessions/{$session->id}/advice")->json('pilot'))->firstWhere('check', 'freeze-stale');
    expect($advice['text'])->toBe('Reeds plays a freeze of what it was: what feeds it was changed since. Freeze it again, or unfreeze it.')
        ->and($advice['fix']['edit'])->toBe(['type' => 'unfreeze', 'channels' => ['reeds']]);
    freezing($session, ['reeds'])->assertJsonPath('status', 'done');
    $frozen = playedBy($session);
    expect($this->getJson("/api/sessions/{$session->id}")->json('frozen.reeds.stale'))->toBeFalse();
    edit($session, $session->refresh()->change, ['type' => 'unfreeze', 'channels' => ['reeds']]);
    expect(Mix::difference(playedBy($session), $frozen))->toBeLessThan(2.0 ** -22);
});

it('does not freeze what was changed meanwhile, and nothing of what was stopped', function (): void {
    $session = grouped();
    Queue::fake();
    $batch = freezing($session, ['cello', 'bass'])->assertJsonPath('status', 'running')->json('id');
    [$cello, $bass] = PrintPart::query()->orderBy('id')->get()->all();
    (new PrintChannel($cello->id))->handle(app(App\Prints\PartRenderer::class));
    expect($this->getJson("/api/batches/{$batch}")->json('channels.0.status'))->toBe('done')->and($session->refresh()->head->label)->toBe('Start');
    edit($session, $session->change, ['type' => 'set-trim', 'channels' => ['bass'], 'gain' => -3.0])->assertOk();
    (new PrintChannel($bass->id))->handle(app(App\Prints\PartRenderer::class));
    $this->getJson("/api/batches/{$batch}")->assertJsonPath('status', 'failed')->assertJsonPath('message', 'Bass was changed since this freeze was made. Freeze it again.');
    $second = freezing($session, ['bass'])->json('id');
    $this->postJson("/api/batches/{$second}/stop")->assertJsonPath('status', 'stopped');
    (new PrintChannel(PrintPart::query()->latest('id')->value('id')))->handle(app(App\Prints\PartRenderer::class));
    expect($this->getJson("/api/sessions/{$session->id}")->json('frozen'))->toBe([]);
});

it('begins again what a killed worker had, and gives up with a message', function (): void {
    $session = Demo::session();
    Queue::fake();
    $batch = PrintBatch::query()->findOrFail(freezing($session, ['cello', 'bass'])->json('id'));
    $freeze = $batch->parts()->firstOrFail();
    $freeze->update(['status' => 'running', 'claim' => 'gone', 'beat_at' => now()->subSeconds(60), 'attempts' => 1]);
    app(Supervisor::class)->look();
    expect($freeze->refresh()->status)->toBe('waiting');
    $freeze->update(['status' => 'running', 'claim' => 'gone', 'beat_at' => now()->subSeconds(60), 'attempts' => Claim::MOST_ATTEMPTS]);
    app(Supervisor::class)->look();
    expect($batch->refresh()->status)->toBe('failed')->and($batch->message)->toStartWith('The freeze of Cello was begun 3 times')
        ->and($batch->parts()->where('channel', 'bass')->value('status'))->toBe('stopped');
});

it('has a batch whose last worker was killed before it was played played', function (): void {
    $session = Demo::session();
    freezing($session, ['cello']);
    $batch = PrintBatch::query()->sole();
    // Killed before it was put in: it is put in. Killed after: it is not put in twice.
    foreach ([0, 1] as $revisions) {
        $batch->update(['status' => 'placing']);
        $session->revisions()->where('gesture', "freeze-{$batch->id}")->update(['gesture' => $revisions === 0 ? null : "freeze-{$batch->id}"]);
        $before = $session->revisions()->count();
        $revisions === 0 && $this->postJson("/api/sessions/{$session->id}/undo")->assertJsonPath('frozen', []);
        $this->travel(60)->seconds();
        app(Supervisor::class)->look();
        $this->travel(60)->seconds();
        app(Supervisor::class)->look();
        expect($batch->refresh()->status)->toBe('done')->and($this->getJson("/api/sessions/{$session->id}")->json('frozen.cello.stale'))->toBeFalse()
            ->and($session->revisions()->count())->toBe($before + 1 - $revisions);
    }
});

it('refuses what cannot be frozen with the field', function (array $body, string $place): void {
    $session = Demo::session();
    $this->postJson("/api/sessions/{$session->id}/freezes", $body)->assertUnprocessable()->assertJsonPath('location', $place);
    expect(PrintBatch::query()->count())->toBe(0);
})->with([
    'the main' => [['channels' => ['main']], 'channel'],
    'nobody' => [['channels' => ['cello', 'nobody']], 'channel'],
    'none' => [['channels' => []], '/channels'],
    'tail' => [['channels' => ['cello'], 'tail' => 'long'], '/tail'],
    'format' => [['channels' => ['cello'], 'format' => '16'], '/format'],
]);

it('plays the channel itself where the file is gone, and lets a freeze go that only the past plays', function (): void {
    $session = Demo::session();
    $live = playedBy($session);
    freezing($session, ['cello']);
    $media = Media::query()->where('frozen_from', 'Cello')->sole();
    $this->deleteJson("/api/media/{$media->id}")->assertUnprocessable();
    edit($session, $session->refresh()->change, ['type' => 'unfreeze', 'channels' => ['cello']]);
    $this->deleteJson("/api/media/{$media->id}")->assertOk();
    expect(is_file(app(MediaFolder::class)->original($media)))->toBeFalse();
    $this->postJson("/api/sessions/{$session->id}/undo")->assertJsonPath('frozen.cello.playable', false);
    expect(playedBy($session))->toEqual($live)
        ->and(collect($this->getJson("/api/sessions/{$session->id}/advice")->json('pilot'))->pluck('check'))->toContain('freeze-missing');
    // Frozen again, it is made again.
    freezing($session, ['cello'])->assertJsonPath('status', 'done');
    expect($this->getJson("/api/sessions/{$session->id}")->json('frozen.cello.playable'))->toBeTrue();
});

it('takes its freezes along in copies and downloads', function (): void {
    $session = grouped();
    freezing($session, ['reeds', 'cello']);
    $fresh = ['cello' => ['stale' => false, 'playable' => true], 'reeds' => ['stale' => false, 'playable' => true]];
    expect($this->postJson("/api/sessions/{$session->id}/copy", ['name' => 'Another'])->assertCreated()->json('frozen'))->toBe($fresh);
    $sound = playedBy($session);
    $bundle = app(SessionBundle::class)->pack($session->refresh());
    $upload = Upload::query()->create(['name' => 'Test.zip', 'bytes' => filesize($bundle)]);
    rename($bundle, app(MediaFolder::class)->upload($upload->id));
    [$opened] = app(SessionBundle::class)->unpack($upload);
    expect($this->getJson("/api/sessions/{$opened->id}")->json('frozen'))->toBe($fresh)->and(playedBy($opened))->toEqual($sound);
});

it('measures the load, and plans the freezes that bring it down', function (): void {
    $session = Demo::session();
    $this->getJson("/api/sessions/{$session->id}/load")->assertJsonPath('status', 'none')->assertJsonPath('load', null);
    $this->postJson("/api/sessions/{$session->id}/load/plan", ['target' => 0.5, 'by' => 'channels'])->assertJsonPath('plan', null);
    $load = $this->postJson("/api/sessions/{$session->id}/load", ['again' => false])->assertAccepted()->assertJsonPath('status', 'done')->json('load');
    $sum = array_sum(array_map(static fn (array $channel): float => $channel['reading'] + $channel['own'] + array_sum($channel['inserts']), $load['channels']));
    expect($load['total'])->toBeGreaterThan(0.0)->and($sum + $load['engine'])->toEqualWithDelta($load['total'], 1e-6)
        ->and(array_column($load['channels'], 'saving', 'id')['main'])->toBeNull();
    $plan = $this->postJson("/api/sessions/{$session->id}/load/plan", ['target' => 0.7 * $load['total'], 'by' => 'channels'])->json('plan');
    expect($plan['channels'])->not->toBe([])->and($plan['after'])->toBeLessThan($load['total']);
    // What was measured is of this state only.
    edit($session, $session->refresh()->change, ['type' => 'set-row', 'channels' => ['cello'], 'on' => false]);
    $this->getJson("/api/sessions/{$session->id}/load")->assertJsonPath('status', 'none');
    $this->postJson("/api/sessions/{$session->id}/load/plan", ['target' => 0, 'by' => 'channels'])->assertUnprocessable()->assertJsonPath('location', '/target');
});

it('measures a session with fresh and stale freezes, and says which remedies a freeze stands in the way of', function (): void {
    $session = grouped();
    $survey = function () use ($session): array {
        $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();

        return $this->getJson("/api/sessions/{$session->id}/survey")->assertJsonPath('current', true)->json('result.taps');
    };
    $live = $survey();
    freezing($session, ['cello', 'reeds']);
    // A fresh freeze is the same sound: nothing is measured again, and the taps within are known.
    $this->getJson("/api/sessions/{$session->id}/survey")->assertJsonPath('current', true)->assertJsonPath('result.taps', $live);
    edit($session, $session->refresh()->change, ['type' => 'set-fader', 'channels' => ['bass'], 'gain' => -12.0])->assertJsonPath('frozen.reeds.stale', true);
    $stale = $survey();
    expect($stale['reeds:pre-fader']['peak'])->toEqualWithDelta($live['reeds:pre-fader']['peak'], 1e-4)
        ->and($stale['main:post-fader']['peak'])->toEqualWithDelta($live['main:post-fader']['peak'], 1e-4)
        ->and($stale['bass:post-fader']['peak'])->toEqualWithDelta($live['bass:post-fader']['peak'] - 12.0, 1e-3);
    $remedies = array_column($this->getJson('/api/rules')->json('remedies'), 'id');
    $ask = ['aim' => ['figure' => 'peak', 'level' => -12.0], 'plans' => array_map(static fn (string $id): array => ['remedies' => [$id], 'prove' => true], $remedies)];
    $this->postJson("/api/sessions/{$session->id}/plans", $ask);
    foreach ($this->postJson("/api/sessions/{$session->id}/plans", $ask)->assertOk()->json('plans') as $i => $plan) {
        expect($plan['status'])->toBeIn(['done', 'failed'], $remedies[$i]);
        if ($plan['status'] === 'failed') {
            expect($plan['message'])->toContain('frozen');
        }
    }
});

it('frees channels called 808 and 0', function (): void {
    $session = Demo::session(Mix::session([
        new Channel('808', ChannelKind::Track, '808', Width::Mono, new ClipSource([new Clip('k1', 'cello', 0, 0, 48000)]), inserts: [Mix::insert('i1', 'drive')], output: '0'),
        new Channel('0', ChannelKind::Group, '0', Width::Stereo, new BusSource, inserts: [Mix::insert('i2', 'reverb')]),
        Mix::track('takes', [])->withSource(new ClipSource),
    ]));
    $this->postJson("/api/sessions/{$session->id}/freezes", ['channels' => ['808', '0']])->assertJsonPath('status', 'done');
    expect($this->getJson("/api/sessions/{$session->id}")->json('frozen'))->toBe([808 => ['stale' => false, 'playable' => true], 0 => ['stale' => false, 'playable' => true]]);
    $load = $this->postJson("/api/sessions/{$session->id}/load", ['again' => false])->json('load');
    expect(array_column($load['channels'], 'id'))->toBe(['808', '0', 'takes', 'main'])->and(array_column($load['channels'], 'total')[0])->toEqual(0.0);
    edit($session, $session->refresh()->change, ['type' => 'unfreeze', 'channels' => ['808', '0']])->assertOk();
    $load = $this->postJson("/api/sessions/{$session->id}/load", ['again' => false])->json('load');
    $plan = $this->postJson("/api/sessions/{$session->id}/load/plan", ['target' => 0.5 * $load['total'], 'by' => 'time'])->json('plan');
    expect($plan['channels'])->not->toBe([]);
    $batch = $this->postJson("/api/sessions/{$session->id}/prints", ['channels' => ['808'], 'tap' => 'pre-fader', 'toFiles' => true])->assertJsonPath('status', 'done')->json('id');
    $this->get("/api/batches/{$batch}/file")->assertOk();
    $this->postJson("/api/sessions/{$session->id}/prints", ['channels' => ['0'], 'tap' => 'post-fader', 'toFiles' => true])->assertJsonPath('status', 'done');
    $this->postJson("/api/sessions/{$session->id}/prints", ['channels' => ['808', '0'], 'tap' => 'post-fader'])->assertJsonPath('status', 'done');
    $this->postJson("/api/sessions/{$session->id}/listenings", ['record' => ['channel' => '808', 'tap' => '0:post-fader']])->assertCreated();
});
