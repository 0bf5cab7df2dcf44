<?php

declare(strict_types=1);

namespace App\Prints;

use Hafen\Refusal;
use Hafen\Session\Channel\Channel;

/** A print that cannot be made or put anywhere. */
final class PrintRefused extends Refusal
{
    public static function noSuchChannel(string $id): self
    {
        return new self('channels', "There is no channel \"{$id}\" any more.");
    }

    public static function noFiles(): self
    {
        return new self('toFiles', 'Files are printed at the source, before or after the fader. For what comes through the main, render it, or print onto a new track.');
    }

    public static function togetherInPlace(): self
    {
        return new self('together', 'Several channels in one audio have no one place of their own. Print them onto a new track, or to a file.');
    }

    public static function withReturns(): self
    {
        return new self('withReturns', 'Returns are printed with their senders only to files, after the fader, one for each channel.');
    }

    public static function onlyReturns(): self
    {
        return new self('withReturns', 'Only returns are selected, and they are in the files of what sends to them. Select what sends, or print the returns apart.');
    }

    public static function notInPlace(Channel $channel): self
    {
        return new self('inPlace', "{$channel->name} carries no clips that a print could take the place of. Print it onto a new track.");
    }

    public static function rangeInPlace(Channel $channel): self
    {
        return new self('inPlace', "{$channel->name} has sound outside this range, which a print in place would take away. Print the whole, or onto a new track.");
    }

    public static function frozen(Channel $channel): self
    {
        return new self('inPlace', "{$channel->name} is frozen. Unfreeze it, or print it onto a new track.");
    }

    public static function nothing(int $from, int $to): self
    {
        return new self('from', "There is nothing to print from sample {$from} to {$to}.");
    }
}
