<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/** A second setting of a processor, kept to be compared and swapped with the one at work. */
final readonly class OtherSetting
{
    /**
     * @param  int  $side  1 or 2: which of the two this one is
     * @param  array<string, float|string|bool>  $parameters
     */
    public function __construct(public int $side, public array $parameters)
    {
    }
}
