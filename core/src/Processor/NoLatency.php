<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** For processors whose output is as early as their input. */
trait NoLatency
{
    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return 0;
    }

    public function latency(): int
    {
        return 0;
    }
}
