<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

use Hafen\Session\Copies;

/**
 * A range of a file placed in time. Positions and lengths in samples at the session rate; gain in dB, null is silence. `clipped` samples were
 * clipped by the converter when its file was recorded.
 */
final readonly class Clip
{
    use Copies;

    public function __construct(
        public string $id,
        public string $file,
        public int $start,
        public int $offset,
        public int $length,
        public ?float $gain = 0.0,
        public ?PrintedFrom $printedFrom = null,
        public int $clipped = 0,
    ) {
    }

    public function end(): int
    {
        return $this->start + $this->length;
    }

    public function withFile(string $file): self
    {
        return $this->copy(file: $file);
    }

    public function withPrintedFrom(?PrintedFrom $printedFrom): self
    {
        return $this->copy(printedFrom: $printedFrom);
    }

    public function withGain(?float $gain): self
    {
        return $this->copy(gain: $gain);
    }
}
