<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Media\MediaFolder;
use App\Media\MediaLibrary;
use Hafen\Engine\Compiler;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Survey\PartRunner;

/** Compilers that find their sound in the media library. */
final readonly class EngineFactory
{
    public function __construct(private ProcessorCatalogue $processors, private MediaFolder $folder)
    {
    }

    public function compiler(int $sampleRate): Compiler
    {
        return new Compiler($this->processors, new MediaLibrary($this->folder, $sampleRate));
    }

    public function partRunner(int $sampleRate): PartRunner
    {
        $library = new MediaLibrary($this->folder, $sampleRate);

        return new PartRunner(new Compiler($this->processors, $library), $this->processors, $library);
    }
}
