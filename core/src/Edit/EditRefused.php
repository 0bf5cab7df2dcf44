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

    public static function followsLane(string $name): self
    {
        return new self('automation', "The fader of {$name} is automated. Mute it, or take its automation away first.");
    }

    public static function noSuchSend(string $id): self
    {
        return new self('send', "There is no send \"{$id}\" any more.");
    }

    public static function noSuchBranch(string $id): self
    {
        return new self('branch', "There is no branch \"{$id}\" any more.");
    }

    public static function notASplit(string $id): self
    {
        return new self('split', "The insert \"{$id}\" is not a split.");
    }

    /** @param  string  $loop  "Plate -> Wash -> Plate" */
    public static function closesLoop(string $loop): self
    {
        return new self('loop', "This would close a loop: {$loop}. Sound going round in it would grow without end.");
    }

    public static function takesNoSends(string $name, string $kind): self
    {
        return new self('send', "{$name} is a {$kind}. Sends go to returns, cues and groups.");
    }

    public static function takesNoOutputs(string $name, string $kind): self
    {
        return new self('output', "{$name} is a {$kind}. Outputs go to groups, returns, the main, or nowhere.");
    }

    public static function cueEnds(string $name): self
    {
        return new self('send', "{$name} is a cue and ends at its own output. It sends nowhere.");
    }

    public static function sendsAlready(string $from, string $to): self
    {
        return new self('send', "{$from} sends to {$to} already. Change the amount of that send.");
    }

    public static function notToInterface(string $name): self
    {
        return new self('output', "{$name} cannot go to the interface by itself; only the main and cues do.");
    }

    /** @param  list<string>  $pairs */
    public static function needsPair(string $name, string $found, array $pairs): self
    {
        return new self('output', "{$name} cannot go to \"{$found}\". It goes to an interface pair (".implode(', ', $pairs).'), or "none".');
    }

    public static function pairTaken(string $pair, string $by): self
    {
        return new self('output', "{$by} already goes to \"{$pair}\". Choose another pair, or send {$by} elsewhere first.");
    }

    public static function carriesClips(string $name): self
    {
        return new self('source', "{$name} carries clips. Use a track without clips, so that nothing is lost.");
    }

    public static function cannotBeGrouped(string $name, string $kind): self
    {
        return new self('group', "{$name} is a {$kind} and cannot go into a group.");
    }

    public static function notACue(string $name, string $kind): self
    {
        return new self('cue', "{$name} is a {$kind}. A mix is copied to a cue.");
    }

    public static function feeds(string $name, string $to): self
    {
        return new self('source', "{$to} takes its sound from a tap of {$name}. Remove {$to} too, or give it another source first.");
    }

    public static function tooDeep(int $most): self
    {
        return new self('split', "Splits stand in branches of splits at most {$most} deep.");
    }

    public static function intoItself(): self
    {
        return new self('split', 'A split cannot go into one of its own branches.');
    }

    public static function notNeighbours(): self
    {
        return new self('selection', 'Only inserts that stand next to each other can go into a branch together.');
    }

    public static function noMoreBranches(int $most): self
    {
        return new self('branch', "This split has {$most} branches, which is the most there can be.");
    }

    public static function noFewerBranches(int $fewest): self
    {
        return new self('branch', "This split needs at least {$fewest} ".($fewest === 1 ? 'branch' : 'branches').'. Dissolve the split instead.');
    }

    public static function noBandAbove(float $frequency): self
    {
        return new self('crossovers', sprintf('There is no room for a band above %.0f Hz. Lower the crossovers first.', $frequency));
    }

    public static function noCrossovers(): self
    {
        return new self('crossovers', 'Only a split by frequency has crossovers.');
    }

    public static function nothingAddsUp(): self
    {
        return new self('split', 'There is no rise to take back: the branches of this split do not carry the same sound, are silent, or cancel each other.');
    }

    public static function cannotPullOut(string $why): self
    {
        return new self('branch', $why);
    }
}
