<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Audio\Block;
use Hafen\Processor\Colour\TubeStage;
use Hafen\Processor\Dynamics\Compressor;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;

/** A slow compressor with a valve behind it. Stereo. */
final class TubeLeveller implements Circuit
{
    private readonly Compressor $leveller;

    private readonly TubeStage $valve;

    public static function spec(): UnitSpec
    {
        return new UnitSpec(
            'tube-leveller',
            'Tube leveller',
            'Evens out slowly, with a valve behind it.',
            [
                ParameterSpec::number('reduction', 'Reduction', '', 0.0, 10.0, 3.0),
                ParameterSpec::choice('recovery', 'Recovery', ['fast' => 'Fast', 'medium' => 'Medium', 'slow' => 'Slow'], 'medium'),
                ParameterSpec::number('warmth', 'Warmth', '', 0.0, 10.0, 4.0),
                ParameterSpec::decibels('output', 'Output', -20.0, 20.0, 0.0),
            ],
            isStereo: true, delay: 2.2, level: 0.7, highest: 18_000.0, hum: -84.0, hiss: -88.0, tail: 700.0,
        );
    }

    public function __construct(Setting $setting)
    {
        $this->leveller = new Compressor($setting);
        $this->valve = new TubeStage($setting);
    }

    public function turn(array $knobs): void
    {
        $this->leveller->set(ParameterValues::of(Compressor::spec(), [
            'threshold' => -4.0 * (float) $knobs['reduction'],
            'ratio' => 3.0,
            'knee' => 18.0,
            'attack' => 25.0,
            'release' => match ($knobs['recovery']) {
                'fast' => 150.0,
                'slow' => 1500.0,
                default => 500.0,
            },
        ]));
        $drive = 1.5 * (float) $knobs['warmth'] - 9.0;
        $this->valve->set(ParameterValues::of(TubeStage::spec(), ['drive' => $drive, 'output' => (float) $knobs['output'] - $drive]));
    }

    public function process(Block $block): void
    {
        $this->leveller->process($block);
        $this->valve->process($block);
    }

    public function latency(): int
    {
        return $this->leveller->latency() + $this->valve->latency();
    }
}
