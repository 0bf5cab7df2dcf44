<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Engine\AudioLibrary;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/** Chooses in how many processes an engine runs, and starts the others. */
final readonly class ProcessStarter
{
    /** Seconds of one core below which starting more processes takes longer than it saves. */
    private const WORTH_IT = 4.0;

    /**
     * @param  string  $php  path of PHP
     * @param  int  $cores  of this machine
     * @param  ?int  $number  of processes, where it is set; chosen by the load where it is left out
     */
    public function __construct(
        private ProcessorCatalogue $processors,
        private AudioLibrary $library,
        private string $php,
        private int $cores,
        private ?int $number = null,
    ) {
    }

    /** Those an engine that plays needs; null where one process suffices. One that dies is replaced. */
    public function toPlay(Session $session): ?Processes
    {
        return $this->processes($this->number ?? Cut::processesFor($session, $this->cores), true);
    }

    /** Those that make a file sooner; null where one process suffices. Where one dies, no file is made. */
    public function toRender(Session $session): ?Processes
    {
        $seconds = Cut::load($session) * $session->length / $session->sampleRate;

        return $this->processes($this->number ?? ($seconds > self::WORTH_IT ? $this->cores : 1), false);
    }

    private function processes(int $number, bool $replaces): ?Processes
    {
        return $number > 1 && SharedBlocks::isAvailable() ? new Processes($this->processors, $this->library, $this->php, $number, $replaces) : null;
    }
}
