<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\ImmediateSQLiteConnection;
use App\Hardware\ThroughHardware;
use App\Hardware\UnitTurns;
use App\Jobs\JobsOfTasks;
use App\Listening\ListenerSeats;
use App\Listening\ListeningStream;
use App\Listening\Recordings;
use App\Media\Decoder;
use App\Media\DiskRoom;
use App\Media\MediaFolder;
use App\Performers\PerformerDesk;
use App\Remote\JobsOnly;
use App\Remote\NoQueue;
use App\Remote\OrderQueue;
use App\Remote\Outpost;
use App\Remote\SharedFiles;
use App\Remote\SharedStore;
use App\Sessions\EngineFactory;
use App\Sessions\OpenedSessions;
use App\Surveys\CaptureRoom;
use App\Takes\TakeKeeper;
use App\Work\JobQueue;
use App\Work\NoOverseer;
use App\Work\Overseer;
use App\Work\PlaybackLoad;
use App\Work\QueueWorker;
use App\Work\TaskJobs;
use App\Work\TaskQueue;
use Closure;
use Hafen\Audio\SampleLoops;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SurveyStore;
use Illuminate\Console\Events\CommandStarting;
use Illuminate\Contracts\Debug\ExceptionHandler;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Connection;
use Illuminate\Support\Facades\Event;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\ServiceProvider;
use PDO;

final class HafenServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        Connection::resolverFor('sqlite', static fn (PDO|Closure $pdo, string $database, string $prefix, array $config): ImmediateSQLiteConnection => new ImmediateSQLiteConnection($pdo, $database, $prefix, $config));
        $this->app->singleton(ProcessorCatalogue::class, static fn (): ProcessorCatalogue => ProcessorCatalogue::standard());
        $this->app->singleton(MediaFolder::class, static fn (): MediaFolder => new MediaFolder(self::text('hafen.data')));
        $this->app->singleton(SurveyStore::class, static function (Application $app): SurveyStore {
            $files = $app->make(SharedFiles::class);

            return $files->isNeeded() ? new SharedStore(self::surveyFolder(), $files) : self::surveyFolder();
        });
        $this->app->singleton(DiskRoom::class, static fn (): DiskRoom => new DiskRoom(self::text('hafen.data'), (int) self::text('hafen.reserve_bytes')));
        $this->app->singleton(OpenedSessions::class);
        $this->app->when(TakeKeeper::class)->needs('$folder')->give(static fn (): string => self::text('hafen.data').'/takes');
        // Without workers nobody looks.
        $this->app->when(Recordings::class)->needs('$hasPlacer')->give(static fn (): bool => config('queue.default') !== 'sync');
        $this->app->singleton(UnitTurns::class, static fn (): UnitTurns => new UnitTurns(self::text('hafen.data').'/units'));
        $this->app->when(ThroughHardware::class)->needs('$isOffline')->giveConfig('hafen.offline_hardware');
        $this->app->when(ThroughHardware::class)->needs('$isElsewhere')->give(static fn (): bool => config('hafen.role') === 'worker');
        $this->app->when(PerformerDesk::class)->needs('$url')->giveConfig('hafen.performers_url');
        $this->app->singleton(ListenerSeats::class, static fn (): ListenerSeats => new ListenerSeats(self::text('hafen.data').'/listeners', (int) self::text('hafen.listeners')));
        $this->app->bind(Decoder::class, static fn (Application $app): Decoder => new Decoder($app->make(DiskRoom::class), self::text('hafen.ffmpeg'), self::text('hafen.ffprobe')));
        $this->app->bind(QueueWorker::class, static fn (Application $app): mixed => $app->make('queue.worker'));
        $this->app->extend('queue.worker', static fn (mixed $worker, Application $app): QueueWorker => new QueueWorker(
            $app->make('queue'),
            $app->make('events'),
            $app->make(ExceptionHandler::class),
            $app->isDownForMaintenance(...),
        ));
        $this->app->singleton(PlaybackLoad::class, static fn (): PlaybackLoad => new PlaybackLoad(self::text('hafen.playing'), (int) self::text('hafen.cores')));
        $this->app->when(EngineFactory::class)->needs('$cores')->give(static fn (): int => (int) self::text('hafen.cores'));
        $this->app->when(EngineFactory::class)->needs('$processes')->give(static fn (): ?int => self::text('hafen.engine_processes') === '' ? null : max(1, (int) self::text('hafen.engine_processes')));
        $this->app->bind(TaskJobs::class, JobsOfTasks::class);
        $this->app->bind(TaskQueue::class, static fn (Application $app): TaskQueue => $app->make(config('queue.default') === 'redis' ? OrderQueue::class : JobQueue::class));
        $this->app->singleton(OrderQueue::class);
        $this->app->bind(Overseer::class, NoOverseer::class);
        $this->app->bind(SharedFiles::class, static fn (): SharedFiles => new SharedFiles(self::text('hafen.shared_disk') === '' ? null : Storage::disk(self::text('hafen.shared_disk')), self::text('hafen.data')));
        if (config('hafen.role') === 'worker') {
            $this->workElsewhere();
        }
        $this->app->when(CaptureRoom::class)->needs('$set')->give(static fn (): ?int => self::text('hafen.survey_bytes') === '' ? null : max(0, (int) self::text('hafen.survey_bytes')));
        $this->app->when(ListeningStream::class)->needs('$lead')->giveConfig('hafen.lead');
        $this->app->when(ListeningStream::class)->needs('$preRoll')->giveConfig('hafen.pre_roll');
    }

    /** A worker that may be on another machine: it shares nothing with the application but Redis and files. */
    private function workElsewhere(): void
    {
        config(['database.connections.sqlite.database' => ':memory:', 'database.connections.sqlite.foreign_key_constraints' => false, 'queue.failed.driver' => 'null']);
        $this->app->bind(TaskQueue::class, NoQueue::class);
        $this->app->bind(TaskJobs::class, JobsOnly::class);
        $this->app->singleton(Outpost::class);
        $this->app->bind(Overseer::class, Outpost::class);
    }

    private static function surveyFolder(): FolderStore
    {
        return new FolderStore(self::text('hafen.data').'/surveys', reserve: (int) self::text('hafen.reserve_bytes'));
    }

    public function boot(): void
    {
        // Console commands switch asynchronous signals on; sample loops must not be interrupted.
        Event::listen(CommandStarting::class, SampleLoops::keepSignalsOut(...));
    }

    private static function text(string $key): string
    {
        $value = config($key);

        return is_scalar($value) ? (string) $value : '';
    }
}
