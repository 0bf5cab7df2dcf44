<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Dsp\Reverb\FeedbackNetwork;
use Hafen\Dsp\Reverb\ShoeboxRoom;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;

/**
 * A hall of 24 by 32 by 13 m: reflections that come late, and a long, broad decay.
 *
 * Sources: J. B. Allen, D. A. Berkley, JASA 1979, for the reflections (see {@see ShoeboxRoom}); J.-M. Jot, A. Chaigne, AES 1991, for the decay
 * (see {@see FeedbackNetwork}); M. R. Schroeder, JAES 1962, for the diffusion.
 */
final class Hall implements Positioned, Processor
{
    use Ambience;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'hall',
            'Hall',
            'Hall', 'Space',
            'A hall: late reflections and a long decay.',
            self::ambienceParameters(20.0, 100.0, 2.4, 15.0, 4500.0, 120.0, 10000.0, 35.0),
            wetOnly: true,
            widens: true,
            synonyms: ['reverb', 'ambience', 'space', 'large', 'concert', 'church'],
        );
    }

    private static function build(): array
    {
        return [
            'lines' => [43.37, 49.91, 55.73, 61.09, 68.93, 75.41, 83.17, 91.57],
            'left' => [5.17, 7.93, 11.39],
            'right' => [5.63, 8.59, 12.41],
            'diffusion' => 0.64,
            'wander' => 0.5,
        ];
    }

    private static function echoes(): array
    {
        return ShoeboxRoom::reflections([24.0, 32.0, 13.0], [0.46, 0.2, 0.2], [0.55, 0.55, 0.15], 0.8, 12);
    }
}
