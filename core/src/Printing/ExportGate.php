<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\SampleFormat;
use Hafen\Engine\Tap;
use Hafen\Session\Session;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyResult;
use Hafen\Survey\TimeRange;

/** Keeps renders to whole numbers from being made when they would clip: floating point keeps what is above full scale, they cannot. */
final class ExportGate
{
    /**
     * Measures what a render is of, where that can tell whether it would clip.
     *
     * @param  ?callable(int, int): bool  $progress  done and all samples; false stops
     * @return ?WouldClip null lets the render pass
     *
     * @throws RenderStopped when progress stopped it
     */
    public static function ask(Session $session, RenderOptions $options, SessionSurvey $survey, ?callable $progress = null): ?WouldClip
    {
        $to = min($options->to ?? $session->length, $session->length);
        if ($options->format->isFloat() || $to <= $options->from) {
            return null;
        }
        $isAll = $options->from === 0 && $to === $session->length;
        $measured = $survey->measure($session, $isAll ? null : new TimeRange($options->from, $to), $progress);

        return $measured === null ? throw RenderStopped::beforeItBegan() : self::check($measured, $options->tap, $options->format);
    }

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
