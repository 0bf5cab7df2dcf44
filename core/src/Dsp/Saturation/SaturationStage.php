<?php

declare(strict_types=1);

namespace Hafen\Dsp\Saturation;

use Closure;
use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Gain\SteppedGain;

/** What drives, amplifiers and tapes are made of: a gain and a filter before a curve, a filter and a gain after it. */
final class SaturationStage
{
    private readonly SteppedGain $input;

    private readonly SteppedGain $output;

    private readonly BiquadCascade $before;

    private readonly BiquadCascade $after;

    private readonly Saturator $saturator;

    /** @param  bool  $isTwice  see {@see Saturator} */
    public function __construct(int $sampleRate, bool $isTwice = false)
    {
        $this->input = new SteppedGain($sampleRate);
        $this->output = new SteppedGain($sampleRate);
        $this->before = new BiquadCascade;
        $this->after = new BiquadCascade;
        $this->saturator = new Saturator($isTwice);
    }

    /** Sets the gains, in dB. */
    public function level(float $input, float $output): void
    {
        $this->input->set($input);
        $this->output->set($output);
    }

    /**
     * Sets the filters.
     *
     * @param  array<string, BiquadCoefficients>  $before  by name, see {@see BiquadCascade}
     * @param  array<string, BiquadCoefficients>  $after
     */
    public function filter(array $before, array $after): void
    {
        $this->before->set($before);
        $this->after->set($after);
    }

    /**
     * @param  Closure(list<float>): list<float>  $curve  see {@see Saturator}
     * @param  ?Closure(Block): void  $lead  changes what goes into the curve, after the input gain
     */
    public function process(Block $block, Closure $curve, ?Closure $lead = null): void
    {
        $this->input->process($block);
        $this->before->process($block);
        $lead === null || $lead($block);
        $this->saturator->process($block, $curve);
        $this->after->process($block);
        $this->output->process($block);
    }

    public function reset(): void
    {
        $this->before->reset();
        $this->saturator->reset();
        $this->after->reset();
        $this->input->settle();
        $this->output->settle();
    }
}
