<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Processor\Colour\Drive;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;
use Hafen\Processor\Space\Spring;

/** A box with two springs: what drives them can be overdriven, and they are mixed with the direct sound. Mono. */
final class SpringTank implements Circuit
{
    private readonly Drive $driver;

    private readonly Spring $springs;

    private readonly DelayLine $direct;

    /** The way through the springs takes a while. */
    private readonly DelayLine $way;

    private float $share = 0.0;

    public static function spec(): UnitSpec
    {
        return new UnitSpec(
            'spring-tank',
            'Spring tank',
            'Two springs in a box.',
            [
                ParameterSpec::number('dwell', 'Dwell', '', 0.0, 10.0, 5.0),
                ParameterSpec::number('tone', 'Tone', '', 0.0, 10.0, 5.0),
                ParameterSpec::number('mix', 'Mix', '', 0.0, 10.0, 3.0),
            ],
            isStereo: false, delay: 3.15, level: -1.4, highest: 14_000.0, hum: -78.0, hiss: -82.0, tail: 2500.0,
        );
    }

    public function __construct(Setting $setting)
    {
        $this->driver = new Drive($setting);
        $this->springs = new Spring($setting);
        $this->direct = new DelayLine($this->driver->latency());
        $this->way = new DelayLine((int) (0.028 * $setting->sampleRate));
    }

    public function turn(array $knobs): void
    {
        $drive = 3.0 * (float) $knobs['dwell'] - 9.0;
        $this->driver->set(ParameterValues::of(Drive::spec(), ['drive' => $drive, 'output' => -0.5 * $drive]));
        $this->springs->set(ParameterValues::of(Spring::spec(), ['decay' => 2.2, 'damping' => 800.0 * 2.0 ** (0.25 * (float) $knobs['tone'])]));
        $this->share = (float) $knobs['mix'] / 10.0;
    }

    public function process(Block $block): void
    {
        $wet = clone $block;
        $this->direct->process($block);
        $this->driver->process($wet);
        $this->way->process($wet);
        $this->springs->process($wet);
        $block->left = Samples::addScaled(Samples::scale($block->left, 1.0 - $this->share), Samples::mid($wet->left, $wet->right()), $this->share);
    }

    public function latency(): int
    {
        return $this->driver->latency();
    }
}
