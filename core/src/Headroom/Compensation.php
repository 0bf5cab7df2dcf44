<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Processor\ProcessorSpec;
use Hafen\Session\ProcessorInsert;

/** Sets a level-dependent insert so that it does to a louder or quieter sound what it did before, and puts it out as much louder or quieter. */
final class Compensation
{
    /**
     * Parameters that move with the level that is fed in: by how many dB for each dB more.
     */
    private const MOVES = [
        'compressor' => ['threshold' => 1.0],
        'limiter' => ['ceiling' => 1.0],
        'drive' => ['drive' => -1.0, 'output' => 1.0],
    ];

    /**
     * @param  float  $by  dB by which the insert is fed louder, below 0 quieter
     * @return ?array<string, mixed> an edit as JSON; null where the processor has no such setting or no room for it
     */
    public static function edit(ProcessorInsert $insert, ProcessorSpec $spec, float $by): ?array
    {
        $moves = self::MOVES[$insert->processor] ?? null;
        if ($moves === null) {
            return null;
        }
        $parameters = $insert->parameters;
        foreach ($moves as $id => $factor) {
            $parameter = $spec->parameter($id);
            assert($parameter !== null);
            $value = (float) ($parameters[$id] ?? $parameter->default) + $factor * $by;
            if ($value < $parameter->min || $value > $parameter->max) {
                return null;
            }
            $parameters[$id] = round($value, 3);
        }

        return ['type' => 'set-parameters', 'insert' => $insert->id, 'parameters' => $parameters];
    }
}
