<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** How a parameter's range is spread over a slider, and how it moves from one value to the next. */
enum Scale: string
{
    case Linear = 'linear';
    case Logarithmic = 'logarithmic';
}
