<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Audio\Block;
use Hafen\Processor\Setting;

/** What a unit of outboard does to the sound, without the delay, the band and the noise of its electronics. */
interface Circuit
{
    public static function spec(): UnitSpec;

    public function __construct(Setting $setting);

    /** @param  array<string, float|string|bool>  $knobs  a position for each */
    public function turn(array $knobs): void;

    public function process(Block $block): void;

    /** Samples by which its direct sound comes late. */
    public function latency(): int;
}
