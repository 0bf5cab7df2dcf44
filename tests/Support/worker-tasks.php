<?php

declare(strict_types=1);

use App\Jobs\PrepareMedia;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\PrintBatch;
use App\Models\RemedyPlan;
use App\Models\Render;
use App\Models\StoredSession;
use App\Models\Survey;
use App\Prints\PrintDesk;
use App\Sessions\DocumentDifference;
use App\Sessions\SessionBook;
use App\Surveys\SurveyDesk;
use App\Work\Claim;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Artisan;
use Tests\Support\Demo;

// Work for real workers, on a database of its own: worker-tasks.php make | state | lose (makes workers look as if they had been
// silent for a minute).
// The environment says where, see WorkerTest and ScalingTest.

require __DIR__.'/../../vendor/autoload.php';
$app = require __DIR__.'/../../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();

if ($argv[1] === 'make') {
    Artisan::call('migrate', ['--force' => true]);
    pcntl_async_signals(false);
    $media = Media::query()->create(['id' => 'cello', 'name' => 'cello', 'extension' => 'wav', 'bytes' => 1, 'status' => 'waiting', 'prepare_rate' => 48000]);
    Demo::wav(app(MediaFolder::class)->original($media), Signal::noise(480_000, 3, 0.9));
    PrepareMedia::dispatchSync('cello');
    $flute = Media::query()->create(['id' => 'flute', 'name' => 'flute', 'extension' => 'wav', 'bytes' => 1, 'status' => 'waiting', 'prepare_rate' => 48000]);
    Demo::wav(app(MediaFolder::class)->original($flute), Signal::noise(44_100, 8, 0.2), 44_100);
    PrepareMedia::dispatchSync('flute');
    $stored = app(SessionBook::class)->create(Mix::session([Mix::track('flute', [], length: 48_000), Mix::track('cello', [
        Mix::insert('i1', 'compressor', Signal::busy('compressor')), Mix::insert('i2', 'plate', Signal::busy('plate')), Mix::insert('i3', 'drive', Signal::busy('drive')),
    ], length: 480_000)], [], 480_000));
    // Sound at another rate, and a freeze: files that workers make.
    $horn = Media::query()->create(['id' => 'horn', 'name' => 'horn', 'extension' => 'wav', 'bytes' => 1, 'status' => 'waiting', 'prepare_rate' => 48000]);
    Demo::wav(app(MediaFolder::class)->original($horn), Signal::noise(44_100, 5, 0.9), 44_100);
    $frozen = app(SessionBook::class)->create(Mix::session([Mix::track('cello', [Mix::insert('i1', 'drive')], length: 96_000)], [], 96_000));
    // What the remedy rests on, measured here; the worker measures a range of its own.
    config(['queue.default' => 'sync']);
    app(SurveyDesk::class)->request($stored);
    config(['queue.default' => getenv('QUEUE_CONNECTION')]);
    Claim::queue($horn);
    app(PrintDesk::class)->freeze($frozen, ['cello'], new Hafen\Printing\FreezeOptions(null, Hafen\Audio\SampleFormat::Float32));
    Claim::queue(Render::query()->create(['session_id' => $stored->id, 'document' => DocumentDifference::full($stored->document), 'name' => 'Mix', 'status' => 'waiting', 'options' => ['format' => '32f', 'tap' => null, 'from' => 0, 'to' => null, 'tail' => 1.0, 'clip' => false]]));
    app(SurveyDesk::class)->request($stored, new Hafen\Survey\TimeRange(4800, 400_000));
    app(App\Plans\PlanDesk::class)->plans($stored, [App\Plans\PlanChoice::of(Hafen\Document\JsonNode::parse('{"remedies":["trim-main"],"prove":true}', 1000), App\Plans\PlanChoice::aim(Hafen\Document\JsonNode::parse('{"figure":"peak","level":-6.0}', 1000)))]);

    return;
}

if ($argv[1] === 'lose') {
    $lost = 0;
    foreach (App\Work\Supervisor::TASKS as $class) {
        $lost += $class::query()->where('status', 'running')->update(['beat_at' => now()->subMinute()]);
    }
    echo json_encode(['lost' => $lost]);

    return;
}

// How long things took is another thing each time; all else is the same.
$still = static function (mixed $value) use (&$still): mixed {
    $value = is_object($value) ? (array) $value : $value;
    if (is_array($value)) {
        unset($value['loads'], $value['load']);

        return array_map($still, $value);
    }

    return $value;
};
// Before all else, so that what is read after it is whole.
$isDone = Render::query()->whereIn('status', ['waiting', 'running', 'stopping'])->count() + Survey::query()->where('status', 'running')->count()
    + RemedyPlan::query()->whereIn('status', ['waiting', 'running', 'shown'])->count() + Media::query()->whereIn('status', ['waiting', 'running'])->count() + PrintBatch::query()->whereIn('status', ['running', 'placing'])->count() === 0;
$render = Render::query()->firstOrFail();
$file = app(MediaFolder::class)->render($render->id);
echo json_encode([
    'render' => $render->status,
    'file' => is_file($file) ? sha1_file($file) : null,
    'parts' => array_map(basename(...), app(MediaFolder::class)->unfinished()),
    'surveys' => Survey::query()->orderBy('id')->get()->map(static fn (Survey $survey): array => [$survey->status, $still($survey->result)])->all(),
    'plans' => RemedyPlan::query()->get()->map(static fn (RemedyPlan $plan): array => [$plan->status, $still($plan->prediction)])->all(),
    'sessions' => StoredSession::query()->orderBy('id')->get()->map(static fn (StoredSession $session): string => sha1($session->document))->all(),
    'media' => Media::query()->orderBy('id')->get()->map(static fn (Media $media): array => [
        $media->id, $media->status, $media->frames, sha1(serialize($media->overview)),
        array_map(sha1_file(...), array_values(array_filter(app(MediaFolder::class)->filesOf($media), is_file(...)))),
    ])->all(),
    'revisions' => App\Models\Revision::query()->count(),
    'batches' => PrintBatch::query()->get()->map(static fn (PrintBatch $batch): string => $batch->status)->all(),
    'isDone' => $isDone,
]);
