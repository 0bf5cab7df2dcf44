<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Channel\NewChannels;
use Hafen\Edit\Edit;
use Hafen\Edit\Insert\Rows;
use Hafen\Edit\Refusals\CannotPullOut;
use Hafen\Edit\Refusals\RowIsFull;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\BranchLocation;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;

/**
 * Makes a track of a branch: fed by the channel's source, with copies of all the branch's sound goes through, to the same
 * places. Together both sound as the channel did alone; where a processor after the split reacts to the sum of the branches
 * that cannot be, and it is refused.
 */
final readonly class PullOutBranch implements Edit
{
    public function __construct(public string $branch, private ProcessorCatalogue $processors)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Branches::find($session, $this->branch);
        $this->refuseWhereItWouldSoundDifferent($session, $location);
        $ids = FreshIds::of($session);
        $channel = $location->channel;
        $split = $location->split;
        $row = $channel->row($location->row);
        $track = $this->track($session, $location, $ids);
        $rest = $channel->withRow($location->row, Inserts::replace($row, $split->id, self::rest($split, $location->branch)));
        foreach ([$rest, $track] as $changed) {
            if (count($changed->row($location->row)) > Rows::MOST) {
                throw RowIsFull::of($changed->name, Rows::MOST);
            }
        }

        return NewChannels::put($session->withChannel($rest), $track);
    }

    public function label(Session $before): string
    {
        return 'Channel from branch '.Branches::named($before, [$this->branch]);
    }

    public function touches(Session $before): array
    {
        $location = $before->branch($this->branch);
        if ($location === null) {
            return ["branches/{$this->branch}"];
        }

        return ['order', "channels/{$location->channel->id}", "channels/{$before->freeChannelId(self::name($before, $location))}", ...Branches::within($location->split)];
    }

    private function refuseWhereItWouldSoundDifferent(Session $session, BranchLocation $location): void
    {
        $channel = $location->channel;
        $row = $channel->row($location->row);
        if ($channel->kind->endsAtInterface()) {
            throw CannotPullOut::because("{$channel->name} ends at the interface, where nothing could join it again.");
        }
        if (! $channel->insertsOn || ! $location->split->on) {
            throw CannotPullOut::because('The split is bypassed. Switch it on first.');
        }
        if ($location->split->selector !== null) {
            throw CannotPullOut::because('The selector of the split chooses between its branches. Take the selector away first.');
        }
        if (count($location->split->branches) === 1) {
            throw CannotPullOut::because("{$location->branch->name} is the only branch.");
        }
        $index = array_search($location->split, $row, true);
        if ($index === false) {
            throw CannotPullOut::because('Its split stands in a branch of another. Dissolve the outer one first.');
        }
        $after = [...array_slice($row, $index + 1), ...($location->row === Row::Inserts ? $channel->postInserts : [])];
        foreach (Inserts::all($after) as $insert) {
            if ($insert instanceof ProcessorInsert && $insert->on && $this->processors->spec($insert->processor)->levelDependent) {
                $name = $this->processors->spec($insert->processor)->name;
                throw CannotPullOut::because("{$name} comes after the split and reacts to the sum of its branches. Move it into the branches, or bypass it.");
            }
        }
        foreach ($session->channels as $other) {
            $tapped = $other->source->tapped();
            if ($tapped?->channel === $channel->id && self::isAfter($tapped->tap, $location->row)) {
                throw CannotPullOut::because("{$other->name} takes its sound from {$channel->name} after the split and would lose the branch.");
            }
        }
    }

    private function track(Session $session, BranchLocation $location, FreshIds $ids): Channel
    {
        $channel = $location->channel;
        $copy = static fn (Row $row): array => array_map($ids->copyOf(...), $row === $location->row
            ? Inserts::replace($channel->row($row), $location->split->id, self::branchAlone($location->split, $location->branch))
            : $channel->row($row));
        $name = self::name($session, $location);

        return new Channel(
            $session->freeChannelId($name),
            ChannelKind::Track,
            $name,
            $channel->width,
            new TapSource($channel->id, TapPoint::Source),
            new ChannelTrim,
            true,
            $copy(Row::Inserts),
            $channel->fader,
            $channel->pan,
            $channel->mute,
            $channel->solo,
            $channel->soloSafe,
            $copy(Row::PostInserts),
            $channel->output,
            array_map(
                static fn (Send $send): Send => $send->withId($ids->send()),
                array_values(array_filter($channel->sends, static fn (Send $send): bool => self::isAfter($send->tap, $location->row))),
            ),
            $channel->aligned,
        );
    }

    /** Whether sound taken there has been through a row. */
    private static function isAfter(TapPoint $tap, Row $row): bool
    {
        return $tap === TapPoint::PostFader || ($tap === TapPoint::PreFader && $row === Row::Inserts);
    }

    private static function name(Session $session, BranchLocation $location): string
    {
        return NewChannels::name($session, mb_substr("{$location->channel->name} {$location->branch->name}", 0, 110));
    }

    /**
     * What stands for the split on the new track.
     *
     * @return list<Insert>
     */
    private static function branchAlone(Split $split, Branch $branch): array
    {
        $heard = $branch->withSolo(false)->withMute(! $split->isHeard($branch));
        if ($split->by === SplitBy::Copies) {
            return self::isPlain($heard) ? $heard->inserts : [$split->withBranches([$heard])];
        }

        return [$split->withBranches(array_map(
            static fn (Branch $other): Branch => $other->id === $branch->id ? $heard : $other->withSolo(false)->withMute(true)->withInserts([]),
            $split->branches,
        ))];
    }

    /**
     * What stands for the split on the channel it was pulled out of.
     *
     * @return list<Insert>
     */
    private static function rest(Split $split, Branch $branch): array
    {
        $rest = [];
        foreach ($split->branches as $other) {
            if ($other->id !== $branch->id) {
                $rest[] = $other->withSolo(false)->withMute(! $split->isHeard($other));
            } elseif ($split->by !== SplitBy::Copies) {
                $rest[] = $other->withSolo(false)->withMute(true)->withInserts([]);
            }
        }
        assert($rest !== []);
        if (count($rest) === 1 && self::isPlain($rest[0])) {
            return $rest[0]->inserts;
        }

        return [$split->withBranches($rest)];
    }

    private static function isPlain(Branch $branch): bool
    {
        return $branch->gain === 0.0 && $branch->pan === 0.0 && ! $branch->mute && ! $branch->invert;
    }
}
