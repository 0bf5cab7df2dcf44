<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Survey\SurveyResult;

/** What comes out of the main: peak in dBFS, true peak in dBTP, loudness in LUFS; null is silence. */
final readonly class Levels
{
    public function __construct(public ?float $peak, public ?float $truePeak, public ?float $loudness)
    {
    }

    public static function of(SurveyResult $survey): self
    {
        return new self($survey->peak(), $survey->truePeak(), $survey->loudness()?->integrated);
    }

    public function figure(AimFigure $figure): ?float
    {
        return match ($figure) {
            AimFigure::Peak => $this->peak,
            AimFigure::TruePeak => $this->truePeak,
            AimFigure::Loudness => $this->loudness,
        };
    }
}
