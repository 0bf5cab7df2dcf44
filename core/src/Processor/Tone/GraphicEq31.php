<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

use Hafen\Dsp\Filter\GraphicBands;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;

/**
 * A slider for each third of an octave.
 *
 * Source: centres ISO 266 (from memory); bells after {@see GraphicBands}.
 */
final class GraphicEq31 implements Processor
{
    use GraphicCurve;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec('graphic-eq-31', 'Graphic EQ, 31 bands', 'Graph', 'Tone', 'A slider for each third of an octave.', self::sliders(), synonyms: ['eq', 'equaliser', 'equalizer', 'slider', 'tone', 'octave']);
    }

    private static function centres(): array
    {
        return [20.0, 25.0, 31.5, 40.0, 50.0, 63.0, 80.0, 100.0, 125.0, 160.0, 200.0, 250.0, 315.0, 400.0, 500.0, 630.0, 800.0, 1000.0, 1250.0, 1600.0, 2000.0, 2500.0, 3150.0, 4000.0, 5000.0, 6300.0, 8000.0, 10000.0, 12500.0, 16000.0, 20000.0];
    }

    private static function octaves(): float
    {
        return 0.53;
    }
}
