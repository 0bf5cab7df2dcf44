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
        return new self('render', "Nothing to render: from sample {$from} to sample {$to} is no range of the session.");
    }

    public static function tooLong(int $frames, int $most): self
    {
        return new self('render', "{$frames} samples were asked for; at most {$most} are rendered, which is a day. Choose a shorter range.");
    }

    /** @param  list<string>  $taps */
    public static function noSuchTap(Tap $tap, array $taps): self
    {
        return new self('tap', "There is no tap \"{$tap->id()}\"; there are: ".implode(', ', $taps).'.');
    }
}
