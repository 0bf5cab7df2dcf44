<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Media\MediaFolder;
use App\Media\MediaLibrary;
use Hafen\Engine\Compiler;
use Hafen\Engine\LibraryAudioFiles;
use Hafen\Headroom\Predictor;
use Hafen\Processor\AudioFiles;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Survey\FolderStore;
use Hafen\Survey\LayeredStore;
use Hafen\Survey\PartRunner;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyStore;

/** Compilers that find their sound in the media library. */
final readonly class EngineFactory
{
    public function __construct(private ProcessorCatalogue $processors, private MediaFolder $folder, private SurveyStore $store)
    {
    }

    public function compiler(int $sampleRate): Compiler
    {
        return new Compiler($this->processors, new MediaLibrary($this->folder, $sampleRate));
    }

    public function audioFiles(int $sampleRate): AudioFiles
    {
        return new LibraryAudioFiles(new MediaLibrary($this->folder, $sampleRate));
    }

    public function partRunner(int $sampleRate): PartRunner
    {
        $library = new MediaLibrary($this->folder, $sampleRate);

        return new PartRunner(new Compiler($this->processors, $library), $this->processors, $library);
    }

    /** What it measures is kept; what it records goes to a store of its own. */
    public function predictor(int $sampleRate, SurveyStore $audioFiles): Predictor
    {
        return new Predictor($this->processors, new MediaLibrary($this->folder, $sampleRate), new LayeredStore($this->store, $audioFiles));
    }

    /** Measures here and now what is not known yet, and keeps it. */
    public function lastingSurvey(int $sampleRate): SessionSurvey
    {
        return new SessionSurvey($this->processors, new MediaLibrary($this->folder, $sampleRate), $this->store);
    }

    /** Measures here and now, and keeps nothing. */
    public function survey(int $sampleRate): SessionSurvey
    {
        return new SessionSurvey($this->processors, new MediaLibrary($this->folder, $sampleRate), FolderStore::temporary());
    }
}
