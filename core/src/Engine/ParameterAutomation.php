<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Automation\ControlCurve;
use Hafen\Session\Automation\ControlCurves;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Macro\ControlRange;

/** Evaluates the automation of one insert's parameters on the fixed grid. */
final readonly class ParameterAutomation
{
    /**
     * @param  non-empty-array<string, ControlCurve>  $curves  by parameter id
     * @param  array<string, true>  $switches  ids of those that are on or off
     */
    private function __construct(private array $curves, private array $switches)
    {
    }

    /** Returns null when no parameter is automated. */
    public static function of(Channel $channel, ProcessorInsert $insert, ProcessorSpec $spec, int $sampleRate): ?self
    {
        $curves = $switches = [];
        foreach ($channel->automation === [] ? [] : $spec->parameters as $parameter) {
            $range = ControlRange::ofParameter($parameter);
            $standing = $insert->parameters[$parameter->id] ?? $parameter->default;
            $curve = $range === null ? null : ControlCurves::of($channel, "parameter:{$insert->id}:{$parameter->id}", $range, (float) $standing, $sampleRate);
            if ($curve !== null) {
                $curves[$parameter->id] = $curve;
                $switches += $range->isSwitch ? [$parameter->id => true] : [];
            }
        }

        return $curves === [] ? null : new self($curves, $switches);
    }

    /** @return array<string, float|bool> where the range of the grid ends that a sample lies in, by parameter id */
    public function at(int $position): array
    {
        $grid = Grid::after($position);
        $values = [];
        foreach ($this->curves as $id => $curve) {
            $value = (float) $curve->at($grid);
            $values[$id] = isset($this->switches[$id]) ? $value >= 0.5 : $value;
        }

        return $values;
    }
}
