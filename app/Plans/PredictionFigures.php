<?php

declare(strict_types=1);

namespace App\Plans;

use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Levels;
use Hafen\Headroom\Prediction;
use Hafen\Headroom\SideEffects;
use Hafen\Metering\TapReading;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/** A prediction as the browser gets it. */
final class PredictionFigures
{
    /** @return array<string, mixed> */
    public static function toArray(Prediction $prediction, Session $session, ProcessorCatalogue $processors): array
    {
        return [
            'labels' => $prediction->labels,
            'amount' => $prediction->amount,
            'edits' => array_map(static fn (EditRequest $edit): array => $edit->fields, $prediction->edits),
            'verified' => $prediction->verified,
            'before' => self::levels($prediction->before),
            'after' => self::levels($prediction->after),
            'reached' => $prediction->reached,
            'changes' => [...SideEffects::of($prediction, $session, $processors), ...$prediction->facts],
            'fed' => count($prediction->fed),
            'tone' => $prediction->tone,
            'reductions' => self::curve($prediction->reductions),
            'reductionStep' => TapReading::REDUCTION_STEP,
        ];
    }

    /** @return array<string, ?float> */
    private static function levels(Levels $levels): array
    {
        return ['peak' => $levels->peak, 'true-peak' => $levels->truePeak, 'loudness' => $levels->loudness];
    }

    /**
     * @param  array<int, float>  $reductions
     * @return list<float> from the start on, without holes
     */
    private static function curve(array $reductions): array
    {
        if ($reductions === []) {
            return [];
        }
        $curve = [];
        for ($step = 0, $last = max(array_keys($reductions)); $step <= $last; ++$step) {
            $curve[] = round($reductions[$step] ?? 0.0, 2);
        }

        return $curve;
    }
}
