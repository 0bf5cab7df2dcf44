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

    /**
     * The highest of each figure; of loudness, which is no matter of a moment, none.
     *
     * @param  non-empty-list<self>  $levels
     */
    public static function highest(array $levels): self
    {
        $peaks = array_filter(array_map(static fn (self $one): ?float => $one->peak, $levels), is_float(...));
        $truePeaks = array_filter(array_map(static fn (self $one): ?float => $one->truePeak, $levels), is_float(...));

        return count($levels) === 1 ? $levels[0] : new self($peaks === [] ? null : max($peaks), $truePeaks === [] ? null : max($truePeaks), null);
    }

    /** Louder by so many dB, below 0 quieter. */
    public function raisedBy(float $decibels): self
    {
        $raised = static fn (?float $level): ?float => $level === null ? null : $level + $decibels;

        return new self($raised($this->peak), $raised($this->truePeak), $raised($this->loudness));
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
