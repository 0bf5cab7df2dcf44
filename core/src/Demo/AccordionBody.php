<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Noise;

/** The wood of the accordion: what a microphone at its back hears, reeds from inside and the air of the bellows. */
final readonly class AccordionBody implements Voice
{
    public function play(Score $score): array
    {
        [$reeds] = (new Accordion(0))->play($score);
        $wood = Block::mono($reeds);
        $box = new BiquadCascade;
        $box->set([
            'closed' => BiquadCoefficients::lowPass(900.0, 0.7, $score->sampleRate),
            'wood' => BiquadCoefficients::peaking(190.0, 1.4, 7.0, $score->sampleRate),
            'boxy' => BiquadCoefficients::peaking(410.0, 2.0, 4.0, $score->sampleRate),
        ]);
        $box->process($wood);
        $bellows = Block::mono((new Noise(53))->samples($score->frames()));
        $air = new BiquadCascade;
        $air->set(['air' => BiquadCoefficients::bandPass(1400.0, 0.6, $score->sampleRate)]);
        $air->process($bellows);
        $bar = 4 * $score->beat();
        $out = [];
        foreach ($wood->left as $i => $sample) {
            $pull = sin(M_PI * $i / $bar);
            $out[] = $sample + 0.012 * $pull * $pull * $bellows->left[$i];
        }

        return [$out];
    }
}
