<?php

declare(strict_types=1);

namespace Hafen\Processor\Tone;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;

/** What equalisers and filters share that are a row of biquads and nothing else. */
trait FilterCascade
{
    use NoLatency;

    private readonly BiquadCascade $cascade;

    public function __construct(private readonly Setting $setting)
    {
        $this->cascade = new BiquadCascade;
    }

    /** @return array<string, BiquadCoefficients> by name: a section of the same name goes on from where it stands */
    abstract private static function sections(ParameterValues $values, int $sampleRate): array;

    public function set(ParameterValues $values): void
    {
        $this->cascade->set(self::sections($values, $this->setting->sampleRate));
    }

    public function process(Block $block): void
    {
        $this->cascade->process($block);
    }

    public function reset(): void
    {
        $this->cascade->reset();
    }
}
