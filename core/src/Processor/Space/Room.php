<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Dsp\Reverb\FeedbackNetwork;
use Hafen\Dsp\Reverb\ShoeboxRoom;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;

/**
 * A room of 6 by 5 by 2.7 m: close reflections and a short, dense decay.
 *
 * Sources: J. B. Allen, D. A. Berkley, JASA 1979, for the reflections (see {@see ShoeboxRoom}); J.-M. Jot, A. Chaigne, AES 1991, for the decay
 * (see {@see FeedbackNetwork}); M. R. Schroeder, JAES 1962, for the diffusion.
 */
final class Room implements Positioned, Processor
{
    use Ambience;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'room',
            'Room',
            'Room', 'Space',
            'A room: early reflections and a short decay.',
            self::ambienceParameters(0.0, 100.0, 0.5, 2.0, 5000.0, 120.0, 11000.0, 50.0),
            wetOnly: true,
            widens: true,
            synonyms: ['reverb', 'ambience', 'space', 'small', 'studio'],
        );
    }

    private static function build(): array
    {
        return [
            'lines' => [9.13, 10.71, 12.37, 13.93, 15.61, 17.93, 19.79, 22.13],
            'left' => [2.11, 3.37],
            'right' => [2.43, 3.71],
            'diffusion' => 0.6,
            'wander' => 0.12,
        ];
    }

    private static function echoes(): array
    {
        return ShoeboxRoom::reflections([6.0, 5.0, 2.7], [0.42, 0.3, 0.5], [0.55, 0.68, 0.55], 0.8, 12);
    }
}
