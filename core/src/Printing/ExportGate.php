<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\SampleFormat;
use Hafen\Engine\Tap;
use Hafen\Survey\SurveyResult;

/** Keeps renders to whole numbers from being made when they would clip: floating point keeps what is above full scale, they cannot. */
final class ExportGate
{
    /** Null lets the render pass. */
    public static function check(SurveyResult $survey, ?Tap $tap, SampleFormat $format): ?WouldClip
    {
        $tap ??= new Tap($survey->mainId);
        $reading = $survey->taps[$tap->id()] ?? null;
        if ($format->isFloat() || $reading === null || $reading->overs === 0) {
            return null;
        }
        $isMain = $tap->id() === "{$survey->mainId}:".Tap::POST_FADER;

        return new WouldClip($reading->peakLevel() ?? 0.0, $reading->overs, $reading->firstOver, $isMain ? $survey->main->overs ?? [] : []);
    }
}
