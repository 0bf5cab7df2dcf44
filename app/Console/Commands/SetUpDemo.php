<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Media\Importer;
use App\Media\MediaFolder;
use App\Models\StoredSession;
use App\Models\Upload;
use App\Sessions\SessionBook;
use App\Surveys\SurveyDesk;
use App\Work\Claim;
use Hafen\Audio\SampleLoops;
use Hafen\Demo\FerryTerminal;
use Illuminate\Console\Command;

/** Makes the demo session and its sound, once. */
final class SetUpDemo extends Command
{
    protected $signature = 'hafen:demo {--again : make another copy even if one is there}';

    protected $description = 'Makes the demo session "Ferry Terminal" and its tracks';

    public function handle(MediaFolder $folder, Importer $importer, SessionBook $book, SurveyDesk $surveys): int
    {
        if (! $this->option('again') && StoredSession::query()->where('name', 'Ferry Terminal')->exists()) {
            return self::SUCCESS;
        }
        $this->info('Making the demo session "Ferry Terminal" (ten tracks, half a minute each, and the paths they take) ...');
        SampleLoops::keepSignalsOut();
        $demo = new FerryTerminal;
        $ids = [];
        foreach (array_keys(FerryTerminal::voices()) as $voice) {
            $upload = Upload::query()->create(['name' => "{$voice}.wav", 'bytes' => 0]);
            $path = $folder->upload($upload->id);
            $demo->write((string) $voice, $path);
            $upload->update(['bytes' => (int) filesize($path), 'received' => (int) filesize($path)]);
            $media = $importer->keep($upload, 48000);
            Claim::work($media, $importer->prepare(...));
            if ($media->refresh()->status !== 'ready') {
                $this->error("{$voice}: ".($media->message ?? 'it was not prepared'));

                return self::FAILURE;
            }
            $ids[$voice] = $media->id;
        }
        $stored = $book->create($demo->session(static fn (string $voice): string => $ids[$voice]));
        $surveys->request($stored);

        return self::SUCCESS;
    }
}
