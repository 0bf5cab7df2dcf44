<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Audio\Block;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Headroom\MomentFinder;
use Hafen\Metering\LoudnessMeter;
use Hafen\Metering\TruePeakMeter;
use Hafen\Session\Session;

/** Measures every tap of a session from its first sample to its last, and loudness and true peak of the main. */
final readonly class SessionSurvey
{
    private const OVERVIEW_POINTS = 800;

    public function __construct(private Compiler $compiler)
    {
    }

    /**
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     * @return ?SurveyResult null when stopped
     */
    public function measure(Session $session, ?callable $progress = null): ?SurveyResult
    {
        $engine = new Engine($this->compiler, $session);
        $length = max(1, $session->length);
        $engine->measureOnly(0, $length);
        $moments = new MomentFinder($engine->plan()->main, $session->main());
        $late = $engine->plan()->arrival($session->main()->id);
        $engine->watch(static fn (int $place) => $moments->look($place - $late, 0, $length));
        $engine->start(0);
        $overview = array_fill(0, min(self::OVERVIEW_POINTS, $length), 0.0);
        $points = count($overview);
        $faults = [];
        $loudness = new LoudnessMeter($session->sampleRate);
        $truePeak = new TruePeakMeter;
        for ($done = 0; $done < $length;) {
            $block = $engine->next();
            $frames = min($block->frames(), $length - $done);
            if ($frames < $block->frames()) {
                $block = new Block(array_slice($block->left, 0, $frames), array_slice($block->right(), 0, $frames));
            }
            $loudness->measure($block);
            $truePeak->measure($block);
            $right = $block->right();
            for ($i = 0; $i < $frames; ++$i) {
                $peak = max(abs($block->left[$i]), abs($right[$i]));
                $point = intdiv(($done + $i) * $points, $length);
                if ($peak > $overview[$point]) {
                    $overview[$point] = $peak;
                }
            }
            $done += $frames;
            foreach ($engine->faults() as $fault) {
                $faults[$fault->channel] ??= $fault;
            }
            if ($progress !== null && ! $progress($done, $length)) {
                return null;
            }
        }

        return new SurveyResult($length, $engine->readings(), $overview, $engine->loads(), array_values($faults), $loudness->read(), $truePeak->level(), $moments->loudest());
    }
}
