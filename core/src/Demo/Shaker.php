<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Noise;

/** Noise: sixteenths with an accent on the beat and a little lateness off it. */
final readonly class Shaker implements Voice
{
    public function play(Score $score): array
    {
        $part = array_fill(0, $score->frames(), 0.0);
        $noise = new Noise(777);
        for ($bar = 2; $bar < Score::BARS - 1; ++$bar) {
            for ($step = 0; $step < 16; ++$step) {
                $force = [0.9, 0.3, 0.55, 0.35][$step % 4] * (0.9 + 0.1 * $noise->next());
                $start = $score->at($bar, $step / 4 + ($step % 2) * 0.02);
                $length = (int) (0.11 * $score->sampleRate);
                foreach ($noise->samples($length) as $i => $sample) {
                    $t = $i / $score->sampleRate;
                    $part[$start + $i] += 0.5 * $force * $sample * (1.0 - exp(-$t * 260.0)) * exp(-$t * 52.0);
                }
            }
        }
        $filter = new BiquadCascade;
        $filter->set([
            'low' => BiquadCoefficients::highPass(3800.0, 0.8, $score->sampleRate),
            'seed' => BiquadCoefficients::peaking(6800.0, 1.4, 7.0, $score->sampleRate),
        ]);
        $block = Block::mono(array_values($part));
        $filter->process($block);

        return [$block->left];
    }
}
