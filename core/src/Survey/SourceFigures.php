<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Metering\Spectrum;

/** Measurements of a channel up to its fader. */
final readonly class SourceFigures
{
    /**
     * @param  float  $offset  mean of the samples at the source, of the side where it is further from 0
     * @param  Spectrum  $low  before the fader, up to 600 Hz
     * @param  list<ClippedClip>  $clipped  clips whose files were clipped when they were made
     * @param  list<LoudestMoment>  $loudest  of what enters the main, the loudest first; of other channels none
     * @param  string  $sketch  before the fader, see {@see \Hafen\Metering\SoundSketch}
     */
    public function __construct(public float $offset, public Spectrum $low, public array $clipped, public array $loudest, public string $sketch = '')
    {
    }
}
