<?php

declare(strict_types=1);

use App\Jobs\DoOrder;
use App\Models\Render;
use App\Models\StoredSession;
use App\Remote\Collector;
use App\Remote\Order;
use App\Remote\Orders;
use App\Remote\Report;
use App\Remote\ReportKind;
use App\Remote\Wire;
use App\Work\Claim;
use Illuminate\Support\Facades\Queue;
use Tests\Support\Demo;
use Tests\Support\Pools;

// Workers that share nothing with the application but Redis and a disk: what they make is what one machine makes.

/** @return array<string, mixed> what there is once all is done */
function allDone(Pools $pools, ?callable $meanwhile = null): array
{
    for ($until = microtime(true) + 300; microtime(true) < $until; usleep(200_000)) {
        $state = tasks('', 'state', $pools->application());
        if ($state['isDone']) {
            return $state;
        }
        if ($meanwhile !== null) {
            $meanwhile($state);
        }
    }
    throw new RuntimeException('It never ended: '.json_encode($state).$pools->log('supervisor').$pools->log('one').$pools->log('two'));
}

/** @return array<string, mixed> of one machine without Redis */
function ofOneMachine(string $folder): array
{
    static $state = null;
    if ($state === null) {
        mkdir($folder);
        touch("{$folder}/hafen.sqlite");
        tasks($folder, 'make');
        work($folder, static fn (): bool => false);
        // A proof follows its preview, and may have been given out after the worker saw nothing left.
        work($folder, static fn (): bool => false);
        $state = tasks($folder, 'state');
    }

    return $state;
}

/** Waits until workers have something in hand. */
function somethingRuns(Pools $pools): void
{
    for ($try = 0; $try < 400 && ! str_contains($pools->log('one').$pools->log('two'), 'RUNNING'); ++$try) {
        usleep(50_000);
    }
    usleep(400_000);
}

/** Has workers stand still while at least one of them has something in hand, and look as if they had been silent for long. */
function stoppedAtWork(Pools $pools, string ...$workers): void
{
    somethingRuns($pools);
    for ($try = 0; $try < 40; ++$try) {
        array_map(static fn (string $worker) => $pools->signal($worker, SIGSTOP), $workers);
        // What they had told is heard first.
        sleep(1);
        if (tasks('', 'lose', $pools->application())['lost'] > 0) {
            return;
        }
        // Between two tasks.
        array_map(static fn (string $worker) => $pools->signal($worker, SIGCONT), $workers);
        usleep(150_000);
    }
    throw new RuntimeException('They never had anything in hand: '.$pools->log('supervisor').implode('', array_map($pools->log(...), $workers)));
}

beforeEach(function (): void {
    $this->pools = new Pools("{$this->data}/pools");
});

afterEach(fn () => $this->pools->stop());

it('makes with two pools what one machine makes', function (): void {
    $expected = ofOneMachine("{$this->data}/plain");
    expect($expected['isDone'])->toBeTrue()->and($expected['batches'])->toBe(['done'])->and($expected['file'])->toBeString();
    tasks('', 'make', $this->pools->application());
    $this->pools->startSupervisor();
    $this->pools->startWorker('one');
    $this->pools->startWorker('two');

    expect(allDone($this->pools))->toEqual($expected);
});

it('loses nothing and does nothing twice where workers, Redis and the supervisor are killed', function (): void {
    $expected = ofOneMachine("{$this->data}/plain");
    tasks('', 'make', $this->pools->application());
    $this->pools->startSupervisor();
    $this->pools->startWorker('one');
    $this->pools->startWorker('two');
    stoppedAtWork($this->pools, 'one', 'two');
    $this->pools->signal('one', SIGKILL);
    $this->pools->signal('two', SIGKILL);
    $this->pools->startWorker('three');
    $blows = 0;
    $state = allDone($this->pools, function () use (&$blows): void {
        ++$blows;
        if ($blows === 3) {
            // All that waits in it is gone.
            $this->pools->signal('redis', SIGKILL);
            $this->pools->startRedis();
        } elseif ($blows === 6) {
            $this->pools->signal('supervisor', SIGKILL);
            $this->pools->startSupervisor();
        }
        if (! $this->pools->isRunning('three')) {
            $this->pools->startWorker('three');
        }
    });

    expect($blows)->toBeGreaterThan(6)->and($state)->toEqual($expected)
        ->and(glob("{$this->data}/pools/shared/*/*.part"))->toBe([]);
});

it('makes the same, nothing twice, where the shared disk is slow and a worker is killed while it waits for it', function (): void {
    $expected = ofOneMachine("{$this->data}/plain");
    $this->pools->stop();
    $this->pools = new Pools("{$this->data}/slow", 'tests/Support/slow-artisan.php');
    tasks('', 'make', $this->pools->application());
    $this->pools->startSupervisor();
    $this->pools->startWorker('one');
    stoppedAtWork($this->pools, 'one');
    $this->pools->signal('one', SIGKILL);
    $this->pools->startWorker('two');
    $this->pools->startWorker('three');

    expect(allDone($this->pools))->toEqual($expected)
        ->and(glob("{$this->data}/slow/shared/*/*.part"))->toBe([]);
});

it('hears no more of a worker that hung while another did its task', function (): void {
    $expected = ofOneMachine("{$this->data}/plain");
    tasks('', 'make', $this->pools->application());
    $this->pools->startSupervisor();
    $this->pools->startWorker('one');
    stoppedAtWork($this->pools, 'one');
    $this->pools->startWorker('two');
    $before = allDone($this->pools);
    $this->pools->signal('one', SIGCONT);
    sleep(3);
    expect($before)->toEqual($expected)->and(tasks('', 'state', $this->pools->application()))->toEqual($expected)
        ->and($this->pools->log('one'))->not->toContain('Exception');
});

it('leaves what it takes to others where a worker does not see the files', function (): void {
    tasks('', 'make', $this->pools->application());
    $this->pools->startSupervisor();
    $this->pools->startWorker('one', ['HAFEN_SHARED_ROOT' => "{$this->data}/pools/elsewhere"]);
    somethingRuns($this->pools);
    $this->pools->startWorker('two');
    expect(allDone($this->pools))->toEqual(ofOneMachine("{$this->data}/plain"))->and($this->pools->log('one'))->toContain('does not see the files')
        ->and($this->pools->isRunning('one'))->toBeFalse();
});

it('works on one data folder where that is shared', function (): void {
    $folder = ['HAFEN_SHARED_DISK' => '', 'HAFEN_DATA' => "{$this->data}/pools/app"];
    $application = [...$this->pools->application(), ...$folder];
    tasks('', 'make', $application);
    $this->pools->startSupervisor($folder);
    $this->pools->startWorker('one', $folder);
    $this->pools->startWorker('two', $folder);
    expect(allDone($this->pools))->toEqual(ofOneMachine("{$this->data}/plain"));
});

it('goes on elsewhere where a worker is told to leave', function (): void {
    tasks('', 'make', $this->pools->application());
    $this->pools->startSupervisor();
    $this->pools->startWorker('one');
    somethingRuns($this->pools);
    $this->pools->signal('one', SIGTERM);
    for ($try = 0; $try < 200 && $this->pools->isRunning('one'); ++$try) {
        usleep(50_000);
    }
    expect($this->pools->isRunning('one'))->toBeFalse();
    $this->pools->startWorker('two');
    expect(allDone($this->pools))->toEqual(ofOneMachine("{$this->data}/plain"));
});

describe('what reports change', function (): void {
    beforeEach(function (): void {
        config(['database.redis.default.port' => $this->pools->application()['REDIS_PORT'], 'hafen.shared_disk' => '']);
        $this->queue = Queue::getFacadeRoot();
        Queue::fake();
        $this->render = Render::query()->create(['session_id' => Demo::session()->id, 'document' => 'x', 'name' => 'Mix', 'options' => [], 'status' => 'waiting']);
        $this->report = fn (ReportKind $kind, string $word, array $columns = [], string $message = '') => app(Collector::class)
            ->apply(new Report($kind, $word, Render::class, $this->render->id, $columns, message: $message));
    });

    it('counts what comes under the claim of the task, and stops all others', function (): void {
        ($this->report)(ReportKind::Taken, 'first');
        ($this->report)(ReportKind::Taken, 'second');
        ($this->report)(ReportKind::Beat, 'first', ['progress' => 0.5, 'status' => 'done']);
        ($this->report)(ReportKind::Beat, 'second', ['progress' => 0.9]);
        ($this->report)(ReportKind::Ended, 'second', ['status' => 'done']);
        $this->render->refresh();
        expect([$this->render->status, $this->render->claim, $this->render->progress, $this->render->attempts])->toBe(['running', 'first', 0.5, 1])
            ->and(app(Wire::class)->isStopped('second'))->toBeTrue()->and(app(Wire::class)->isStopped('first'))->toBeFalse();
        ($this->report)(ReportKind::Ended, 'first', ['status' => 'done', 'progress' => 1.0]);
        ($this->report)(ReportKind::Failed, 'first', message: 'No memory.');
        expect($this->render->refresh()->status)->toBe('done')->and($this->render->claim)->toBeNull()->and($this->render->message)->toBeNull();
    });

    it('says why a task failed, and gives out again what a worker gave back', function (): void {
        ($this->report)(ReportKind::Taken, 'first');
        ($this->report)(ReportKind::Left, 'first');
        expect($this->render->refresh()->status)->toBe('waiting')->and($this->render->attempts)->toBe(0);
        ($this->report)(ReportKind::Taken, 'second');
        ($this->report)(ReportKind::Failed, 'second', message: 'No memory.');
        expect($this->render->refresh()->status)->toBe('failed')->and($this->render->message)->toBe('No memory.');
    });

    it('goes on after a report that is damaged, or of something that is no task', function (): void {
        $wire = app(Wire::class);
        $redis = app('redis')->connection();
        foreach (['nonsense', 'O:8:"stdClass":0:{}', (new Report(ReportKind::Ended, 'w', StoredSession::class, '1', ['document' => '']))->packed()] as $packed) {
            $redis->command('lpush', ['hafen:reports', [$packed]]);
        }
        $wire->tell(new Report(ReportKind::Taken, 'first', Render::class, $this->render->id));
        app(Collector::class)->collect(0.5);
        expect($this->render->refresh()->status)->toBe('running')->and($wire->leftInHand())->toBe([])
            ->and(StoredSession::query()->value('document'))->not->toBe('');
    });

    it('holds up no report behind one that cannot be dealt with, and forgets that one once its task is another\'s', function (): void {
        $wire = app(Wire::class);
        $other = Render::query()->create(['session_id' => $this->render->session_id, 'document' => 'x', 'name' => 'Other', 'options' => [], 'status' => 'running', 'claim' => 'w']);
        ($this->report)(ReportKind::Taken, 'first');
        $wire->tell(new Report(ReportKind::Ended, 'first', Render::class, $this->render->id, ['no_such_column' => 1]));
        $wire->tell(new Report(ReportKind::Ended, 'w', Render::class, $other->id, ['status' => 'done']));
        $collector = app(Collector::class);
        $collector->collect(0.5);
        $collector->collect(0.1);
        expect($other->refresh()->status)->toBe('done')->and($this->render->refresh()->status)->toBe('running')->and($wire->leftInHand())->toHaveCount(1);
        $this->render->update(['claim' => 'second']);
        $collector->collect(0.1);
        expect($wire->leftInHand())->toBe([]);
    });

    it('deals with reports that were in hand when the supervisor was killed', function (): void {
        $wire = app(Wire::class);
        $wire->tell(new Report(ReportKind::Taken, 'first', Render::class, $this->render->id));
        expect($wire->next(1))->toBeString();
        app(Collector::class)->collect(0.1);
        expect($this->render->refresh()->status)->toBe('running')->and($wire->leftInHand())->toBe([]);
    });

    it('empties no database but that of a worker', function (): void {
        $order = app(Orders::class)->of($this->render)->packed();
        expect(static fn () => app()->call([new DoOrder($order), 'handle']))->toThrow(LogicException::class, 'bin/worker')
            ->and(Render::query()->count())->toBe(1)
            ->and(static fn () => Order::unpacked('nonsense'))->toThrow(InvalidArgumentException::class);
    });

    it('keeps tasks that cannot be given out, as Redis is away', function (): void {
        $this->pools->signal('redis', SIGKILL);
        config(['queue.default' => 'redis']);
        Queue::swap($this->queue);
        Claim::queue($this->render);
        expect($this->render->refresh()->status)->toBe('waiting')->and(app(App\Remote\OrderQueue::class)->isEmpty('default'))->toBeFalse();
        // Whoever looks at a page is told, until a task gets through.
        $words = $this->getJson('/api/sessions')->headers->get('X-Hafen-Work-Waits');
        expect($words)->toStartWith('Redis at 127.0.0.1:')->toContain('does not take tasks: ')->toEndWith('Work waits, and goes on by itself.');
        $this->pools->startRedis();
        Claim::queue($this->render);
        expect(Queue::connection()->pendingSize('default'))->toBe(1)->and($this->getJson('/api/sessions')->headers->has('X-Hafen-Work-Waits'))->toBeFalse();
    });
});
