<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Noise;

/**
 * The waiting hall: air, a far murmur, and the ferry's engines below 60 Hz, which nobody needs in a mix; recorded with
 * a small device that is a little off zero.
 */
final readonly class HallAmbience implements Voice
{
    private const OFFSET = 0.005;

    public function play(Score $score): array
    {
        $sides = [];
        foreach ([11, 12] as $seed) {
            $part = (new Noise($seed))->samples($score->frames());
            $block = Block::mono($part);
            $air = new BiquadCascade;
            $air->set([
                'tilt' => BiquadCoefficients::firstOrderLowPass(500.0, $score->sampleRate),
                'murmur' => BiquadCoefficients::peaking(420.0, 0.9, 8.0, $score->sampleRate),
                'floor' => BiquadCoefficients::highPass(70.0, 0.7, $score->sampleRate),
            ]);
            $air->process($block);
            $engine = Block::mono((new Noise($seed * 7))->samples($score->frames()));
            $hull = new BiquadCascade;
            $hull->set([
                'drone' => BiquadCoefficients::bandPass(41.0, 6.0, $score->sampleRate),
                'second' => BiquadCoefficients::lowPass(90.0, 0.7, $score->sampleRate),
            ]);
            $hull->process($engine);
            $out = [];
            foreach ($block->left as $i => $sample) {
                $swell = 1.0 + 0.35 * sin(2 * M_PI * 0.11 * $i / $score->sampleRate + $seed);
                $out[] = self::OFFSET + 0.16 * $swell * $sample + 2.4 * $engine->left[$i];
            }
            $sides[] = $out;
        }

        return $sides;
    }
}
