<?php

declare(strict_types=1);

namespace Hafen\Processor\Movement;

use Hafen\Processor\FollowsLfo;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;

/** What flanger and phaser share: a copy that is delayed or turned by an LFO, fed back, and mixed with the sound. */
trait MovingNotches
{
    use FollowsLfo;
    use NoLatency;

    private float $feedback = 0.0;

    /** Share of the copy, 0 to 0.5. */
    private float $amount = 0.0;

    /** Radians by which the right side's LFO is ahead. */
    private float $apart = 0.0;

    /**
     * @param  float  $most  percent of feedback, either way
     * @return list<ParameterSpec>
     */
    private static function notchParameters(float $most, float $feedback): array
    {
        return [
            ParameterSpec::number('feedback', 'Feedback', '%', -$most, $most, $feedback, step: 1.0),
            ParameterSpec::number('amount', 'Amount', '%', 0.0, 100.0, 100.0, step: 1.0),
            ParameterSpec::number('apart', 'Sides apart', '°', 0.0, 180.0, 60.0, step: 1.0),
        ];
    }

    private function setNotches(ParameterValues $values): void
    {
        $this->feedback = $values->number('feedback') / 100.0;
        $this->amount = 0.5 * $values->number('amount') / 100.0;
        $this->apart = deg2rad($values->number('apart'));
    }

    /**
     * Size of (1 - a) + a z/(1 - f z), with z = exp(-i angle) the copy.
     *
     * @param  float  $angle  radians by which the copy lags
     */
    private static function magnitude(ParameterValues $values, float $angle): float
    {
        $feedback = $values->number('feedback') / 100.0;
        $amount = 0.5 * $values->number('amount') / 100.0;
        $re = 1.0 - $feedback * cos($angle);
        $im = $feedback * sin($angle);
        $size = $re * $re + $im * $im;
        $wetRe = (cos($angle) * $re - sin($angle) * $im) / $size;
        $wetIm = (-sin($angle) * $re - cos($angle) * $im) / $size;

        return hypot(1.0 - $amount + $amount * $wetRe, $amount * $wetIm);
    }
}
