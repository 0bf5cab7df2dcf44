<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Split;

/** The stages of a channel in the order sound passes them, parted where its fader is. */
final readonly class ChannelStages
{
    /**
     * @param  list<string>  $upToFader  from "source" to "pre-fader"
     * @param  list<string>  $fromFader  up to "post-fader"
     */
    private function __construct(public array $upToFader, public array $fromFader)
    {
    }

    public static function of(Channel $channel): self
    {
        return new self(
            ['source', ...self::row($channel->inserts), 'pre-fader'],
            [...self::row($channel->postInserts), 'post-fader'],
        );
    }

    /**
     * @param  list<Insert>  $row
     * @return list<string>
     */
    private static function row(array $row): array
    {
        $stages = [];
        foreach ($row as $insert) {
            if ($insert instanceof Split) {
                $stages[] = "into:{$insert->id}";
                foreach ($insert->branches as $branch) {
                    array_push($stages, ...self::row($branch->inserts));
                    $stages[] = "branch:{$branch->id}";
                }
            }
            $stages[] = "insert:{$insert->id()}";
        }

        return $stages;
    }
}
