<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Engine\Compiler;
use Hafen\Engine\FolderLibrary;
use Hafen\Engine\Parallel\ProcessStarter;
use Hafen\Hardware\AudioInterface;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\NotMeasured;
use Hafen\Hardware\RealTimeInterface;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyResult;

/** What all commands need: sessions and their recordings from files, and somewhere to say things. */
final readonly class Terminal
{
    public ProcessorCatalogue $processors;

    public SessionCodec $codec;

    /**
     * @param  resource  $out
     * @param  resource  $error
     * @param  bool  $isHardwareOffline  lets the stand-ins of units of outboard run faster than the clock
     */
    public function __construct(private mixed $out, private mixed $error, private bool $isHardwareOffline)
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

    /** @param  ?AudioInterface  $interface  hardware loops go through */
    public function compiler(string $path, ?AudioInterface $interface = null): Compiler
    {
        return new Compiler($this->processors, $this->library($path), $interface);
    }

    /**
     * The stand-ins of the audio interface and of units of outboard, where sound goes through them; says that this takes real time.
     *
     * @param  ?list<string>  $channels  ids of those whose sound is wanted; null is all of them
     *
     * @throws NotMeasured when sound would not be lined up
     */
    public function hardware(Session $session, ?array $channels = null): ?AudioInterface
    {
        $loops = UnitPlaces::loops($session, $channels);
        if ($loops === []) {
            return null;
        }
        $interface = $this->simulated($session);
        $interface->readAll(false);
        foreach ($loops as $loop) {
            NotMeasured::unless($loop, $interface->latency());
        }

        return $this->paced($interface, $session, sprintf(
            'It goes through %s and takes real time: %d seconds at the least.',
            implode(' and ', array_map(static fn (HardwareLoop $loop): string => $loop->name, $loops)),
            (int) ceil($session->length / $session->sampleRate),
        ));
    }

    /** An interface at the clock; faster where stand-ins may be. */
    public function paced(AudioInterface $interface, Session $session, string $told): AudioInterface
    {
        if ($this->isHardwareOffline) {
            return $interface;
        }
        fwrite($this->error, "{$told}\n");

        return new RealTimeInterface($interface, $session->sampleRate);
    }

    /** The interface that ships with Hafen, as it comes. */
    public function simulated(Session $session): SimulatedInterface
    {
        return new SimulatedInterface(InterfaceProfile::standard(), $session->sampleRate, $session->tempo, static fn (): null => null);
    }

    /** @param  ?int  $number  of processes of the engine; chosen by the load where it is left out */
    public function processes(string $path, ?int $number): ProcessStarter
    {
        $cores = substr_count((string) @file_get_contents('/proc/cpuinfo'), "processor\t:");

        return new ProcessStarter($this->processors, $this->library($path), PHP_BINARY, max(1, $cores), $number);
    }

    public function measured(Session $session, string $path): SurveyResult
    {
        $result = (new SessionSurvey($this->processors, $this->library($path), FolderStore::temporary(keepsCaptures: false), $this->hardware($session)))->measure($session);
        assert($result !== null);

        return $result;
    }
}
