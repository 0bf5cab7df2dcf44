<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;
use Hafen\Processor\Space\EchoDelay;

/** Echoes from a loop of tape, beside the direct sound. Mono. */
final class TapeLoop implements Circuit
{
    private readonly EchoDelay $tape;

    private float $echo = 0.0;

    public static function spec(): UnitSpec
    {
        return new UnitSpec(
            'tape-loop',
            'Tape loop',
            'Echoes from a loop of tape.',
            [
                ParameterSpec::number('time', 'Time', 'ms', 60.0, 800.0, 320.0, step: 1.0),
                ParameterSpec::number('repeats', 'Repeats', '', 0.0, 10.0, 4.0),
                ParameterSpec::number('saturation', 'Record level', '', 0.0, 10.0, 5.0),
                ParameterSpec::number('echo', 'Echo', '', 0.0, 10.0, 5.0),
            ],
            isStereo: false, delay: 4.4, level: -0.8, highest: 11_000.0, hum: -72.0, hiss: -70.0, tail: 6000.0,
        );
    }

    public function __construct(Setting $setting)
    {
        $this->tape = new EchoDelay($setting);
    }

    public function turn(array $knobs): void
    {
        $this->tape->set(ParameterValues::of(EchoDelay::spec(), [
            'unit' => 'ms',
            'time' => (float) $knobs['time'],
            'feedback' => 8.5 * (float) $knobs['repeats'],
            'damping' => 3500.0,
            'wow' => 35.0,
            'saturation' => 10.0 * (float) $knobs['saturation'],
        ]));
        $this->echo = (float) $knobs['echo'] / 10.0;
    }

    public function process(Block $block): void
    {
        $echoes = clone $block;
        $this->tape->process($echoes);
        $block->left = Samples::addScaled($block->left, Samples::mid($echoes->left, $echoes->right()), $this->echo);
    }

    public function latency(): int
    {
        return 0;
    }
}
