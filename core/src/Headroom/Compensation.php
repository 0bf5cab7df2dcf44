<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Edit\Json\EditRequest;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Insert\ProcessorInsert;

/** Sets a level-dependent insert so that it does to a louder or quieter sound what it did before, and puts it out as much louder or quieter. */
final class Compensation
{
    /**
     * @param  float  $by  dB by which the insert is fed louder, below 0 quieter
     * @return ?EditRequest null where the processor has no such setting or no room for it
     */
    public static function edit(ProcessorInsert $insert, ProcessorSpec $spec, float $by): ?EditRequest
    {
        if ($spec->followsLevel === []) {
            return null;
        }
        $parameters = $insert->parameters;
        foreach ($spec->followsLevel as $id => $factor) {
            $parameter = $spec->parameter((string) $id);
            assert($parameter !== null);
            $value = (float) ($parameters[$id] ?? $parameter->default) + $factor * $by;
            if ($value < $parameter->min || $value > $parameter->max) {
                return null;
            }
            $parameters[$id] = round($value, 3);
        }

        return EditRequest::setParameters($insert->id, $parameters);
    }
}
