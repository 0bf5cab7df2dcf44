<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Engine\AudioLibrary;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/** Chooses in how many processes an engine runs, and starts the others. */
final readonly class ProcessStarter
{
    private const BLOCK = 512;

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

    /**
     * An engine that plays, in as many processes as the session needs; in one where no others can be started. One that dies is replaced.
     *
     * @param  bool  $metered  read every tap
     * @param  int  $blockSize  frames of the longest block
     */
    public function engineToPlay(Compiler $compiler, Session $session, bool $metered = true, int $blockSize = self::BLOCK): Engine
    {
        try {
            return new Engine($compiler, $session, $blockSize, $metered, $this->processes($this->number ?? Cut::processesFor($session, $this->cores), true));
        } catch (ProcessGone) {
            return new Engine($compiler, $session, $blockSize, $metered);
        }
    }

    /** An engine that makes a file, in as many processes as make it sooner; in one where no others can be started. Where one dies, no file is made. */
    public function engineToRender(Compiler $compiler, Session $session, int $blockSize): Engine
    {
        $seconds = Cut::load($session) * $session->length / $session->sampleRate;
        try {
            return new Engine($compiler, $session, $blockSize, false, $this->processes($this->number ?? ($seconds > self::WORTH_IT ? $this->cores : 1), false));
        } catch (ProcessGone) {
            return new Engine($compiler, $session, $blockSize, false);
        }
    }

    private function processes(int $number, bool $replaces): ?Processes
    {
        return $number > 1 && SharedBlocks::isAvailable() ? new Processes($this->processors, $this->library, $this->php, $number, $replaces) : null;
    }
}
