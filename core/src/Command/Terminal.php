<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Engine\Compiler;
use Hafen\Engine\FolderLibrary;
use Hafen\Engine\Parallel\ProcessStarter;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyResult;

/** What all commands need: sessions and their recordings from files, and somewhere to say things. */
final readonly class Terminal
{
    public ProcessorCatalogue $processors;

    public SessionCodec $codec;

    /** @param  resource  $out */
    public function __construct(private mixed $out)
    {
        $this->processors = ProcessorCatalogue::standard();
        $this->codec = new SessionCodec($this->processors);
    }

    public function say(string $text): void
    {
        // Whoever reads may have read enough: that is no fault of what is computed.
        @fwrite($this->out, $text."\n");
    }

    public function json(mixed $value): void
    {
        $this->say(json_encode($value, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION));
    }

    /** @throws InvalidDocument */
    public function open(string $path): Session
    {
        $json = is_file($path) && is_readable($path) ? file_get_contents($path) : false;
        if ($json === false) {
            throw InvalidDocument::unreadable($path);
        }

        return $this->codec->decode($json);
    }

    /** The recordings beside a session file. */
    public function library(string $path): FolderLibrary
    {
        return new FolderLibrary(dirname($path));
    }

    public function compiler(string $path): Compiler
    {
        return new Compiler($this->processors, $this->library($path));
    }

    /** @param  ?int  $number  of processes of the engine; chosen by the load where it is left out */
    public function processes(string $path, ?int $number): ProcessStarter
    {
        $cores = substr_count((string) @file_get_contents('/proc/cpuinfo'), "processor\t:");

        return new ProcessStarter($this->processors, $this->library($path), PHP_BINARY, max(1, $cores), $number);
    }

    public function measured(Session $session, string $path): SurveyResult
    {
        $result = (new SessionSurvey($this->processors, $this->library($path), FolderStore::temporary(keepsCaptures: false)))->measure($session);
        assert($result !== null);

        return $result;
    }
}
