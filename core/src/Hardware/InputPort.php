<?php

declare(strict_types=1);

namespace Hafen\Hardware;

/** One input of the interface: its name, what is plugged in, and the gain of its amplifier in dB. */
final readonly class InputPort
{
    public const LOWEST_GAIN = -12.0;

    public const HIGHEST_GAIN = 60.0;

    /**
     * @param  ?string  $file  that is played, where that is plugged in
     * @param  ?int  $output  a cable comes from, where that is plugged in
     */
    public function __construct(
        public string $name,
        public PlugKind $plug = PlugKind::Nothing,
        public float $gain = 0.0,
        public ?string $file = null,
        public ?int $output = null,
    ) {
    }
}
