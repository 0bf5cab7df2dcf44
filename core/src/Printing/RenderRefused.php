<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Engine\Tap;
use Hafen\Refusal;

/** A render that cannot be made as asked. */
final class RenderRefused extends Refusal
{
    public static function nothing(int $from, int $to): self
    {
        return new self('render', "Nothing to render: from sample {$from} to sample {$to} is no stretch of the session.");
    }

    /** @param  list<string>  $taps */
    public static function noSuchTap(Tap $tap, array $taps): self
    {
        return new self('tap', "There is no tap \"{$tap->key()}\"; there are: ".implode(', ', $taps).'.');
    }
}
