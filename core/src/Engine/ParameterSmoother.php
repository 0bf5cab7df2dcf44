<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;

/**
 * Smooths a processor's numeric parameters over about 30 ms, so that moving a control is
 * heard as a movement and not as steps. Choices and switches change at once.
 */
final class ParameterSmoother
{
    private const MILLISECONDS = 30.0;

    /** @var array<string, float> */
    private array $now = [];

    /** @var array<string, float> */
    private array $steps = [];

    private int $left = 0;

    private readonly int $length;

    public function __construct(private readonly ProcessorSpec $spec, private ParameterValues $target, private readonly int $sampleRate)
    {
        $this->length = (int) round($sampleRate * self::MILLISECONDS / 1000.0);
        foreach ($this->numbers() as $id => $logarithmic) {
            $this->now[$id] = self::travel($target->number((string) $id), $logarithmic);
        }
    }

    /** @param  ?float  $milliseconds  of this way; null is the usual time */
    public function towards(ParameterValues $target, ?float $milliseconds = null): void
    {
        if ($target->toArray() === $this->target->toArray()) {
            return;
        }
        $this->target = $target;
        $this->left = $milliseconds === null ? $this->length : max($this->length, (int) round($this->sampleRate * $milliseconds / 1000.0));
        foreach ($this->numbers() as $id => $logarithmic) {
            $this->steps[$id] = (self::travel($target->number((string) $id), $logarithmic) - $this->now[$id]) / $this->left;
        }
    }

    public function moving(): bool
    {
        return $this->left > 0;
    }

    /** Advances by a number of frames and returns the values. */
    public function step(int $frames): ParameterValues
    {
        $moved = min($frames, $this->left);
        $this->left -= $moved;
        $numbers = [];
        foreach ($this->numbers() as $id => $logarithmic) {
            if ($this->left === 0) {
                $this->now[$id] = self::travel($this->target->number((string) $id), $logarithmic);
            } else {
                $this->now[$id] += $this->steps[$id] * $moved;
                $numbers[$id] = $logarithmic ? exp($this->now[$id]) : $this->now[$id];
            }
        }

        return $numbers === [] ? $this->target : $this->target->withMoved($numbers);
    }

    /** @return array<string, bool> ids of the numbers; true where the scale is logarithmic */
    private function numbers(): array
    {
        $numbers = [];
        foreach ($this->spec->parameters as $parameter) {
            if ($parameter->kind === ParameterKind::Number) {
                $numbers[$parameter->id] = $parameter->scale === Scale::Logarithmic;
            }
        }

        return $numbers;
    }

    private static function travel(float $value, bool $logarithmic): float
    {
        return $logarithmic ? log($value) : $value;
    }
}
