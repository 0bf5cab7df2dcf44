<?php

declare(strict_types=1);

use App\Jobs\PrepareMedia;
use App\Jobs\RenderSession;
use App\Jobs\SurveyChannel;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\Render;
use App\Models\StoredSession;
use App\Models\Survey;
use App\Models\SurveyPart;
use App\Work\Claim;
use App\Work\QueueWorker;
use App\Work\Supervisor;
use Illuminate\Support\Facades\Queue;
use Tests\Support\Demo;

function rendering(StoredSession $session): Render
{
    return Render::query()->findOrFail(test()->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f'])->assertAccepted()->json('id'));
}

function look(int $later = 0): int
{
    test()->travel($later)->seconds();

    return app(Supervisor::class)->look();
}

it('stops a render that runs, and one that waits', function (): void {
    $session = Demo::session();
    Queue::fake();
    $render = rendering($session);
    $this->postJson("/api/renders/{$render->id}/stop")->assertJsonPath('status', 'stopped');
    $again = rendering($session);
    Claim::work($again, function (Claim $claim) use ($again): void {
        expect($claim->beat(1, 10))->toBeTrue();
        $this->postJson("/api/renders/{$again->id}/stop")->assertJsonPath('status', 'stopping');
        usleep(350_000);
        expect($claim->beat(2, 10))->toBeFalse();
        $claim->finish(['status' => 'stopped']);
    });
    expect($again->refresh()->status)->toBe('stopped');
});

it('begins again what a killed worker had, and gives it up after three times with a message', function (): void {
    $session = Demo::session();
    Queue::fake();
    $render = rendering($session);
    Queue::assertPushed(RenderSession::class, 1);
    foreach ([1, 2, 3] as $attempt) {
        // A worker that is killed: it has taken the render and says no more.
        $render->refresh()->update(['status' => 'running', 'claim' => "worker-{$attempt}", 'attempts' => $attempt, 'beat_at' => now()]);
        expect(look())->toBe(0)->and(look(Claim::LOST_AFTER + 1))->toBe(1);
    }
    Queue::assertPushed(RenderSession::class, 3);
    $this->getJson("/api/renders/{$render->id}")->assertJsonPath('status', 'failed');
    expect($render->refresh()->message)->toContain('3 times')->toContain('memory');
});

it('gives out again what waits without a job, but not what waits for its turn', function (): void {
    $session = Demo::session();
    config(['queue.default' => 'database']);
    $render = rendering($session);
    // Its job is there.
    expect(look(6))->toBe(0);
    DB::table('jobs')->delete();
    expect(look())->toBe(1)->and(DB::table('jobs')->count())->toBe(1)->and(look())->toBe(0)
        ->and($render->refresh()->status)->toBe('waiting');
});

it('finds imports, parts of surveys and whole surveys nobody goes on with', function (): void {
    $session = Demo::session();
    Queue::fake();
    Media::query()->whereKey('cello')->update(['status' => 'running', 'claim' => 'gone', 'beat_at' => now(), 'attempts' => 1]);
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    $part = SurveyPart::query()->firstOrFail();
    $part->update(['status' => 'running', 'claim' => 'gone', 'attempts' => 1]);
    SurveyPart::query()->whereKeyNot($part->id)->update(['status' => 'done']);
    expect(look(Claim::LOST_AFTER + 1))->toBeGreaterThanOrEqual(2);
    Queue::assertPushed(PrepareMedia::class, 1);
    // Killed after the last part was done and before the next was given out.
    SurveyPart::query()->update(['status' => 'done']);
    $before = Queue::pushed(SurveyChannel::class)->count();
    look(6);
    expect(Queue::pushed(SurveyChannel::class)->count())->toBeGreaterThan($before);
    // Given up too often, the whole survey says so.
    SurveyPart::query()->whereKey($part->id)->update(['status' => 'running', 'claim' => 'gone', 'attempts' => 3]);
    look(Claim::LOST_AFTER + 1);
    $this->getJson("/api/sessions/{$session->id}/survey")->assertJsonPath('running', null);
    expect(Survey::query()->sole()->message)->toContain('3 times');
});

it('lets a worker that was taken for lost write nothing over what another finished', function (): void {
    $session = Demo::session();
    Queue::fake();
    $render = rendering($session);
    Claim::work($render, function (Claim $slow) use ($render): void {
        look(Claim::LOST_AFTER + 1);
        Claim::work(Render::query()->findOrFail($render->id), static fn (Claim $other) => $other->finish(['status' => 'done', 'result' => ['frames' => 1]]));
        usleep(350_000);
        expect($slow->beat())->toBeFalse()->and($slow->finish(['status' => 'failed', 'message' => 'late']))->toBeFalse();
    });
    expect($render->refresh()->status)->toBe('done')->and($render->message)->toBeNull();
});

it('gives a render back when its worker has to leave, and leaves no file', function (): void {
    $session = Demo::session();
    Queue::fake();
    $render = rendering($session);
    app(QueueWorker::class)->shouldQuit = true;
    app()->call([new RenderSession($render->id), 'handle']);
    expect($render->refresh()->status)->toBe('waiting')->and($render->attempts)->toBe(0)->and(glob(dirname(app(MediaFolder::class)->render('x')).'/*'))->toBe([]);
    app(QueueWorker::class)->shouldQuit = false;
    app()->call([new RenderSession($render->id), 'handle']);
    expect($render->refresh()->status)->toBe('done');
});

it('fails a job in which PHP complains, says so and leaves nothing behind', function (): void {
    $session = Demo::session();
    Queue::fake();
    $render = rendering($session);
    $folder = app(MediaFolder::class);
    Claim::work($render, static function () use ($folder, $render): void {
        Hafen\Audio\SampleLoops::run(static function () use ($folder, $render): void {
            $writer = Hafen\Audio\WavWriter::create($folder->render($render->id), new Hafen\Audio\AudioFormat(48000, 1, Hafen\Audio\SampleFormat::Float32));
            try {
                $list = [1.0];
                $writer->write([[$list[94455443198082]]]);
            } finally {
                $writer->discard();
            }
        });
    });
    expect($render->refresh()->status)->toBe('failed')->and($render->message)->toContain('Undefined array key 94455443198082')
        ->and(glob(dirname($folder->render('x')).'/*'))->toBe([]);
});
