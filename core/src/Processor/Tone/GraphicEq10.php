<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

use Hafen\Dsp\Filter\GraphicBands;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;

/**
 * A slider for each octave.
 *
 * Source: centres ISO 266 (from memory); bells after {@see GraphicBands}.
 */
final class GraphicEq10 implements Processor
{
    use GraphicCurve;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec('graphic-eq-10', 'Graphic EQ, 10 bands', 'Graph', 'Tone', 'A slider for each octave.', self::sliders(), synonyms: ['eq', 'equaliser', 'equalizer', 'slider', 'tone', 'octave']);
    }

    private static function centres(): array
    {
        return [31.5, 63.0, 125.0, 250.0, 500.0, 1000.0, 2000.0, 4000.0, 8000.0, 16000.0];
    }

    private static function octaves(): float
    {
        return 1.5;
    }
}
