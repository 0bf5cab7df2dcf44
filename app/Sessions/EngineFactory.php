<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Media\MediaFolder;
use App\Media\MediaLibrary;
use Hafen\Engine\Compiler;
use Hafen\Engine\LibraryAudioFiles;
use Hafen\Engine\Parallel\ProcessStarter;
use Hafen\Hardware\AudioInterface;
use Hafen\Headroom\Predictor;
use Hafen\Processor\AudioFiles;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Survey\FolderStore;
use Hafen\Survey\LayeredStore;
use Hafen\Survey\PartRunner;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyStore;
use Symfony\Component\Process\PhpExecutableFinder;

/** Compilers that find their sound in the media library. */
final readonly class EngineFactory
{
    /**
     * @param  int  $cores  of this machine
     * @param  ?int  $processes  of each engine, where it is set; chosen by the load where it is left out
     * @param  ?string  $php  path of PHP; found where it is left out
     */
    public function __construct(
        private ProcessorCatalogue $processors,
        private MediaFolder $folder,
        private SurveyStore $store,
        private int $cores,
        private ?int $processes,
        private ?string $php = null,
    ) {
    }

    /** @param  ?AudioInterface  $interface  live inputs come from */
    public function compiler(int $sampleRate, ?AudioInterface $interface = null): Compiler
    {
        return new Compiler($this->processors, new MediaLibrary($this->folder, $sampleRate), $interface);
    }

    /** Starts further processes of an engine. */
    public function processes(int $sampleRate): ProcessStarter
    {
        // Of the command line, whatever serves this request.
        $php = $this->php ?? (new PhpExecutableFinder)->find(false);

        return new ProcessStarter($this->processors, new MediaLibrary($this->folder, $sampleRate), $php === false ? PHP_BINARY : $php, $this->cores, $this->processes);
    }

    public function audioFiles(int $sampleRate): AudioFiles
    {
        return new LibraryAudioFiles(new MediaLibrary($this->folder, $sampleRate));
    }

    /** @param  ?AudioInterface  $interface  hardware loops go through */
    public function partRunner(int $sampleRate, ?AudioInterface $interface = null): PartRunner
    {
        $library = new MediaLibrary($this->folder, $sampleRate);

        return new PartRunner(new Compiler($this->processors, $library, $interface), $this->processors, $library);
    }

    /** What it measures is kept, and what it records around the loudest moment; what it records of the whole goes to a store of its own. */
    public function predictor(int $sampleRate, SurveyStore $audioFiles, ?AudioInterface $interface = null): Predictor
    {
        return new Predictor($this->processors, new MediaLibrary($this->folder, $sampleRate), new LayeredStore($this->store, $audioFiles), $this->store, $interface);
    }

    /** Measures here and now what is not known yet, and keeps it. */
    public function lastingSurvey(int $sampleRate, ?AudioInterface $interface = null): SessionSurvey
    {
        return new SessionSurvey($this->processors, new MediaLibrary($this->folder, $sampleRate), $this->store, $interface);
    }

    /** Measures here and now, and keeps nothing. */
    public function survey(int $sampleRate, ?AudioInterface $interface = null): SessionSurvey
    {
        return new SessionSurvey($this->processors, new MediaLibrary($this->folder, $sampleRate), FolderStore::temporary(keepsCaptures: false), $interface);
    }
}
