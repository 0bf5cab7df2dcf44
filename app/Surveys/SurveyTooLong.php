<?php

declare(strict_types=1);

namespace App\Surveys;

use Hafen\Refusal;

/** More was to be measured than a day. */
final class SurveyTooLong extends Refusal
{
    public static function of(int $frames, int $most): self
    {
        return new self('survey', "{$frames} samples were to be measured; at most {$most} are, which is a day. Choose a shorter range.");
    }
}
