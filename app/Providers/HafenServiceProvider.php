<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\ImmediateSQLiteConnection;
use App\Listening\ListeningStream;
use App\Media\Importer;
use App\Media\MediaFolder;
use App\Surveys\SurveyDesk;
use Closure;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SurveyStore;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Connection;
use Illuminate\Support\ServiceProvider;
use PDO;

final class HafenServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        Connection::resolverFor('sqlite', static fn (PDO|Closure $pdo, string $database, string $prefix, array $config): ImmediateSQLiteConnection => new ImmediateSQLiteConnection($pdo, $database, $prefix, $config));
        $this->app->singleton(ProcessorCatalogue::class, static fn (): ProcessorCatalogue => ProcessorCatalogue::standard());
        $this->app->singleton(MediaFolder::class, static fn (): MediaFolder => new MediaFolder(self::text('hafen.data')));
        $this->app->singleton(SurveyStore::class, static fn (): SurveyStore => new FolderStore(self::text('hafen.data').'/surveys'));
        $this->app->bind(Importer::class, static fn (Application $app): Importer => new Importer($app->make(MediaFolder::class), self::text('hafen.ffmpeg')));
        $this->app->when(SurveyDesk::class)->needs('$bytes')->giveConfig('hafen.survey_bytes');
        $this->app->when(ListeningStream::class)->needs('$lead')->giveConfig('hafen.lead');
        $this->app->when(ListeningStream::class)->needs('$preRoll')->giveConfig('hafen.pre_roll');
    }

    private static function text(string $key): string
    {
        $value = config($key);

        return is_string($value) ? $value : '';
    }
}
