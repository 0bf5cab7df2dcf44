<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Audio\Block;
use Hafen\Dsp\Saturation\SaturationStage;
use Hafen\Dsp\Saturation\Saturator;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;

/** What processors share that are one saturating stage at four times the rate. */
trait Saturates
{
    private readonly SaturationStage $stage;

    public function __construct(private readonly Setting $setting)
    {
        $this->stage = new SaturationStage($setting->sampleRate);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    abstract private function curved(array $samples): array;

    public function process(Block $block): void
    {
        $this->stage->process($block, $this->curved(...));
    }

    public function reset(): void
    {
        $this->stage->reset();
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return Saturator::delay();
    }

    public function latency(): int
    {
        return Saturator::delay();
    }
}
