<?php

declare(strict_types=1);

namespace Hafen\Session\Hardware;

/** What a ping measured: samples out and in again, converters and buffers included, and the buffer it was measured with. */
final readonly class MeasuredDelay
{
    public function __construct(public float $samples, public int $buffer)
    {
    }

    /** What a ping would measure with another buffer. */
    public function atBuffer(int $buffer): self
    {
        return new self($this->samples + 2 * ($buffer - $this->buffer), $buffer);
    }
}
