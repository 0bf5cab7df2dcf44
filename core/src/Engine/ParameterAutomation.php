<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Automation\AutomationCurve;
use Hafen\Session\Automation\AutomationKind;
use Hafen\Session\Channel\Channel;

/** Evaluates the automation of one insert's parameters on the fixed grid. */
final readonly class ParameterAutomation
{
    /** @param  non-empty-array<string, AutomationCurve>  $curves  by parameter id */
    private function __construct(private array $curves)
    {
    }

    /** Returns null when no parameter is automated. */
    public static function of(Channel $channel, string $insert, ProcessorSpec $spec): ?self
    {
        $curves = [];
        foreach ($channel->automation as $lane) {
            $parameter = $lane->target->kind === AutomationKind::Parameter && $lane->target->part === $insert ? $spec->parameter((string) $lane->target->parameter) : null;
            if ($parameter !== null) {
                $curves[$parameter->id] = new AutomationCurve($lane, $parameter->scale);
            }
        }

        return $curves === [] ? null : new self($curves);
    }

    /** @return array<string, float> where the range of the grid ends that a sample lies in, by parameter id */
    public function at(int $position): array
    {
        $grid = Grid::after($position);

        return array_map(static fn (AutomationCurve $curve): float => (float) $curve->at($grid), $this->curves);
    }
}
