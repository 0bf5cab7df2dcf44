<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

use Hafen\Dsp\Filter\GraphicBands;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;

/**
 * Bass, middle and treble on three sliders.
 *
 * Source: centres ISO 266 (from memory); bells after {@see GraphicBands}.
 */
final class GraphicEq3 implements Processor
{
    use GraphicCurve;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec('graphic-eq-3', 'Graphic EQ, 3 bands', 'Graph', 'Tone', 'Bass, middle and treble on three sliders.', self::sliders(), synonyms: ['eq', 'equaliser', 'equalizer', 'slider', 'tone', 'octave']);
    }

    private static function centres(): array
    {
        return [100.0, 1000.0, 10000.0];
    }

    private static function octaves(): float
    {
        return 3.5;
    }
}
