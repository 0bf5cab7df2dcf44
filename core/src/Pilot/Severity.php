<?php

declare(strict_types=1);

namespace Hafen\Pilot;

enum Severity: string
{
    /** What comes out is not what anybody wants. */
    case Severe = 'severe';
    /** Practice says otherwise; it may be on purpose. */
    case Advice = 'advice';
    /** Good to know. */
    case Information = 'information';

    public function rank(): int
    {
        return match ($this) {
            self::Severe => 0,
            self::Advice => 1,
            self::Information => 2,
        };
    }
}
