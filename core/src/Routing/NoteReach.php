<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Source\NoteSource;

/** How far notes get in the row of a note channel: to the first instrument that is on. What stands behind it gets sound alone. */
final readonly class NoteReach
{
    public function __construct(private ProcessorCatalogue $processors)
    {
    }

    /** @return list<string> ids of the splits whose branches get notes */
    public function splits(Channel $channel): array
    {
        return $channel->source instanceof NoteSource ? $this->walk([...$channel->inserts, ...$channel->postInserts])[0] : [];
    }

    /**
     * @param  list<Insert>  $row  that notes get to
     * @return array{list<string>, bool} the splits in it whose branches get notes, and whether notes come out of it
     */
    private function walk(array $row): array
    {
        $splits = [];
        foreach ($row as $insert) {
            if ($insert instanceof Split) {
                $splits[] = $insert->id;
                $passes = ! $insert->on;
                foreach ($insert->branches as $branch) {
                    [$inside, $passesBranch] = $this->walk($branch->inserts);
                    array_push($splits, ...$inside);
                    $passes = $passes || $passesBranch;
                }
            } else {
                $passes = ! ($insert instanceof ProcessorInsert && $insert->on && $this->processors->kind($insert->processor) === 'instrument');
            }
            if (! $passes) {
                return [$splits, false];
            }
        }

        return [$splits, true];
    }
}
