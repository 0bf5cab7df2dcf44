<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Noise;

/** Breathed: nine voices on an open vowel, spread over both sides, coming in at the fifth bar. */
final readonly class Choir implements Voice
{
    public function play(Score $score): array
    {
        $harmonics = [];
        for ($k = 1; $k <= 22; ++$k) {
            $harmonics[] = 1.0 / $k ** 1.1;
        }
        $voice = WaveTable::of($harmonics);
        $sides = [];
        foreach ([0, 1] as $side) {
            $part = array_fill(0, $score->frames(), 0.0);
            for ($bar = 4; $bar < Score::BARS; ++$bar) {
                foreach ($score->chord($bar) as $k => $note) {
                    foreach ([-0.09, 0.02, 0.08] as $n => $detune) {
                        $near = ($n + $k) % 2 === $side ? 1.0 : 0.45;
                        $part = $voice->add($part, $score->at($bar, 0.02 * $n), (int) ($score->beat() * 3.9), Score::frequency($note + $detune), 0.085 * $near, $score->sampleRate, 0.45, 0.6, 0.12 + 0.05 * $n, 0.13 * $n + 0.29 * $k);
                    }
                }
            }
            $breath = (new Noise(31 + $side))->samples(count($part));
            $follow = 0.0;
            foreach ($part as $i => $sample) {
                $follow += 0.001 * (abs($sample) - $follow);
                $part[$i] = $sample + 0.12 * $follow * $breath[$i];
            }
            $vowel = new BiquadCascade;
            $vowel->set([
                'first' => BiquadCoefficients::peaking(640.0, 3.0, 10.0, $score->sampleRate),
                'second' => BiquadCoefficients::peaking(1180.0, 4.0, 8.0, $score->sampleRate),
                'third' => BiquadCoefficients::peaking(2600.0, 4.0, 5.0, $score->sampleRate),
                'soft' => BiquadCoefficients::lowPass(4200.0, 0.7, $score->sampleRate),
            ]);
            $block = Block::mono($part);
            $vowel->process($block);
            $sides[] = $block->left;
        }

        return $sides;
    }
}
