<?php

declare(strict_types=1);

namespace Hafen\Hardware;

/** Samples by which sound comes late through an audio interface. */
final readonly class InterfaceLatency
{
    /**
     * @param  int  $buffer  frames that are gathered before they are handed over, each way
     * @param  int  $adc  of the converters of the inputs
     * @param  int  $dac  of the converters of the outputs
     */
    public function __construct(public int $buffer, public int $adc, public int $dac)
    {
    }

    /** From the jack of an input. */
    public function in(): int
    {
        return $this->adc + $this->buffer;
    }

    /** To the jack of an output. */
    public function out(): int
    {
        return $this->buffer + $this->dac;
    }

    /** Out and in again through a cable. */
    public function roundTrip(): int
    {
        return $this->in() + $this->out();
    }
}
