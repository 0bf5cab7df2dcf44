<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Samples;
use Hafen\Hardware\AudioInterface;

/**
 * The audio interface as who works a plan needs it: {@see begin()} takes in a block, hardware loops add what they send, {@see end()} hands it
 * to the outputs.
 */
final class InterfaceBlocks
{
    /** @var array<int, list<float>> what hardware loops send in this block, by port */
    private array $sends = [];

    public function __construct(public readonly AudioInterface $interface)
    {
    }

    /** Frames of a block that is not longer than so many. */
    public function frames(int $most): int
    {
        return min($most, $this->interface->longestBlock());
    }

    public function begin(int $frames): void
    {
        $this->interface->capture($frames);
    }

    /** @param  list<float>  $samples */
    public function send(int $port, array $samples): void
    {
        $this->sends[$port] = isset($this->sends[$port]) ? Samples::add($this->sends[$port], $samples) : $samples;
    }

    /**
     * @param  array<int, list<float>>  $outputs  what else goes out, by port
     * @param  ?int  $position  in the session of its first sample; null while nothing plays
     */
    public function end(int $frames, array $outputs = [], ?int $position = null): void
    {
        $sends = $this->sends;
        $this->sends = [];
        $this->interface->play($sends + $outputs, $frames, $position);
    }
}
