<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\LinkwitzRiley;
use Hafen\Dsp\Noise;
use Hafen\Dsp\Reverb\ShoeboxRoom;

/**
 * Made-up responses of rooms and things: noise that dies away in three bands, after the first reflections of a room.
 *
 * Source: own: exponential decays by T60 in three Linkwitz-Riley bands (500 Hz, 4 kHz) of seeded noise, first reflections by image sources
 * (see {@see ShoeboxRoom}). Each has an energy of 1, so that white noise keeps its level.
 */
enum Impulse: string
{
    case Chapel = 'chapel';
    case ConcertHall = 'concert-hall';
    case WoodenStudio = 'wooden-studio';
    case TiledBath = 'tiled-bath';
    case Tunnel = 'tunnel';
    case Stairwell = 'stairwell';
    case Container = 'container';

    /** What a chip calls each of them. */
    public const SHORT = [
        'chapel' => 'chapel', 'concert-hall' => 'hall', 'wooden-studio' => 'studio', 'tiled-bath' => 'bath',
        'tunnel' => 'tunnel', 'stairwell' => 'stairs', 'container' => 'steel',
    ];

    /** @return array<string, string> */
    public static function labels(): array
    {
        return [
            'chapel' => 'Stone chapel', 'concert-hall' => 'Concert hall', 'wooden-studio' => 'Wooden studio', 'tiled-bath' => 'Tiled bath',
            'tunnel' => 'Tunnel', 'stairwell' => 'Stairwell', 'container' => 'Steel container',
        ];
    }

    /**
     * @param  float  $share  of the decay times
     * @return array{list<float>, list<float>}
     */
    public function response(int $sampleRate, float $share): array
    {
        [$size, $decays, $build, $seed] = match ($this) {
            self::Chapel => [[9.0, 16.0, 8.0], [3.0, 2.6, 1.3], 25.0, 11],
            self::ConcertHall => [[22.0, 38.0, 15.0], [2.3, 2.1, 1.2], 45.0, 23],
            self::WoodenStudio => [[7.0, 9.0, 3.6], [0.5, 0.42, 0.35], 6.0, 37],
            self::TiledBath => [[2.4, 3.1, 2.5], [0.7, 1.1, 0.9], 3.0, 41],
            self::Tunnel => [[5.0, 60.0, 4.0], [3.6, 2.8, 1.1], 30.0, 53],
            self::Stairwell => [[3.0, 5.5, 14.0], [1.6, 2.0, 1.4], 12.0, 67],
            self::Container => [[2.3, 5.8, 2.4], [1.3, 0.9, 0.5], 4.0, 79],
        };
        $length = (int) ceil($share * max($decays) * $sampleRate) + (int) ($build * $sampleRate / 1000.0);
        $echoes = ShoeboxRoom::reflections($size, [0.45, 0.25, 0.4], [0.55, 0.6, 0.45], 0.85, 16);
        $sides = [];
        foreach ([1, 2] as $side) {
            $samples = self::noise($length, $sampleRate, $decays, $share, $build, new Noise(100 * $seed + $side));
            foreach ($echoes as $echo) {
                $at = max(0, (int) round($echo[0] * $sampleRate / 1000.0));
                if ($at < count($samples)) {
                    $samples[$at] += 4.0 * $echo[$side];
                }
            }
            $sides[] = Samples::scale($samples, 1.0 / sqrt(Samples::energy($samples)));
        }

        return $sides;
    }

    /**
     * @param  array{float, float, float}  $decays  s
     * @param  float  $build  ms until it is dense
     * @return list<float>
     */
    private static function noise(int $length, int $sampleRate, array $decays, float $share, float $build, Noise $noise): array
    {
        $white = $noise->samples($length);
        $sum = array_fill(0, $length, 0.0);
        foreach ($decays as $band => $decay) {
            $filter = new BiquadCascade;
            $filter->set(LinkwitzRiley::band($band, [500.0, 4000.0], $sampleRate));
            $block = Block::mono($white);
            $filter->process($block);
            $fall = 10.0 ** (-3.0 / ($decay * $share * $sampleRate));
            $gain = 1.0;
            $swell = 1.0 - exp(-1000.0 / ($build * $sampleRate));
            $open = 0.0;
            for ($i = 0; $i < $length; ++$i) {
                $open += $swell * (1.0 - $open);
                $sum[$i] += $gain * $open * $block->left[$i];
                $gain *= $fall;
            }
        }

        return $sum;
    }
}
