<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\Scale;
use Hafen\Session\Automation\Travel;
use Hafen\Session\Channel\FaderScale;

/** The values a control can have, and how they lie along its travel. */
final readonly class ControlRange
{
    private function __construct(
        public Travel $travel,
        public ?float $lowest,
        public float $highest,
        public string $unit = '',
        public bool $isSwitch = false,
        public Scale $scale = Scale::Linear,
    ) {
    }

    /** How a control on the screen is drawn: "switch", "fader" for gains, "linear" or "logarithmic". */
    public function scale(): string
    {
        return match (true) {
            $this->isSwitch => 'switch',
            $this->lowest === null => 'fader',
            default => $this->scale->value,
        };
    }

    public static function ofGain(): self
    {
        return new self(Travel::ofGains(), null, FaderScale::HIGHEST, 'dB');
    }

    public static function ofMix(): self
    {
        return new self(Travel::along(Scale::Linear), 0.0, 1.0);
    }

    public static function ofSwitch(): self
    {
        return new self(Travel::along(Scale::Linear), 0.0, 1.0, isSwitch: true);
    }

    /** Null where a macro cannot move such a parameter. */
    public static function ofParameter(ParameterSpec $parameter): ?self
    {
        return match ($parameter->kind) {
            ParameterKind::Number => new self(Travel::along($parameter->scale), $parameter->min, $parameter->max, $parameter->unit, scale: $parameter->scale),
            ParameterKind::Toggle => self::ofSwitch(),
            default => null,
        };
    }

    /** @return ?float what stands at a place of the travel, or at the end it lies beyond; null is silence */
    public function valueAt(float $place): ?float
    {
        $value = $this->travel->value(max($this->travel->at($this->lowest), min($this->travel->at($this->highest), $place)));

        return match (true) {
            $value === null => null,
            $this->isSwitch => $value >= 0.5 ? 1.0 : 0.0,
            // At the ends a logarithm would miss the range by its rounding.
            default => round(max($this->lowest ?? $value, min($this->highest, $value)), 6),
        };
    }
}
