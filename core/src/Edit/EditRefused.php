<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Refusal;

/** An edit that would break a rule. `place` names the rule. */
final class EditRefused extends Refusal
{
    public static function noSuchChannel(string $id): self
    {
        return new self('channel', "There is no channel \"{$id}\" any more.");
    }

    public static function noSuchInsert(string $id): self
    {
        return new self('insert', "There is no insert \"{$id}\" any more.");
    }

    public static function mainStays(string $name): self
    {
        return new self('main', "{$name} is the main; a session needs it and it stays last.");
    }

    public static function onlyTracksCarryClips(string $name): self
    {
        return new self('clips', "{$name} sums what feeds it. Files go on tracks.");
    }

    public static function rowFull(string $name, int $most): self
    {
        return new self('row', "{$name} already has {$most} inserts in this row, which is the most there can be.");
    }

    public static function tooManyChannels(int $most): self
    {
        return new self('channels', "A session has at most {$most} channels.");
    }

    public static function nothingSelected(): self
    {
        return new self('selection', 'No channel or insert was named.');
    }

    public static function noSpaceToMove(string $what, string $limit): self
    {
        return new self('range', "{$what} is at its limit of {$limit}. Nothing was moved, so that the others keep their relation.");
    }
}
