<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Dsp\Reverb\FeedbackNetwork;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;

/**
 * A plate of steel: no reflections, dense from the first moment, brighter than a room.
 *
 * Sources: J. Dattorro, "Effect design 1", JAES 1997, for strong diffusion before a network that wanders; J.-M. Jot, A. Chaigne, AES 1991,
 * for the decay (see {@see FeedbackNetwork}).
 */
final class Plate implements Positioned, Processor
{
    use Ambience;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'plate',
            'Plate',
            'Plate', 'Space',
            'A plate of steel: dense from the first moment, bright.',
            self::ambienceParameters(0.0, 100.0, 1.8, 8.0, 9000.0, 150.0, 16000.0, 0.0),
            wetOnly: true,
            widens: true,
            synonyms: ['reverb', 'ambience', 'space', 'bright', 'vocal'],
        );
    }

    private static function build(): array
    {
        return [
            'lines' => [14.31, 16.73, 19.57, 22.79, 25.13, 28.31, 31.93, 35.71],
            'left' => [1.73, 3.19, 5.03, 7.41],
            'right' => [1.97, 3.47, 5.39, 7.87],
            'diffusion' => 0.7,
            'wander' => 0.35,
        ];
    }

    private static function echoes(): array
    {
        return [];
    }
}
