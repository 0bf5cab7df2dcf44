<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Engine\Tap;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;

/** Where the level is read that goes into each processor of a channel. */
final class InputTaps
{
    /** @return array<string, array{ProcessorInsert, string}> the insert and the tap key before it, by insert id */
    public static function of(Channel $channel): array
    {
        return self::row($channel, $channel->inserts, Tap::SOURCE) + self::row($channel, $channel->postInserts, Tap::PRE_FADER);
    }

    /** Where the level is read that an insert hears: of what it listens to, or of what goes into it. */
    public static function heard(ProcessorInsert $insert, string $input): string
    {
        return $insert->sidechain === null ? $input : "{$insert->sidechain->channel}:{$insert->sidechain->tap->value}";
    }

    /**
     * @param  list<Insert>  $row
     * @return array<string, array{ProcessorInsert, string}>
     */
    private static function row(Channel $channel, array $row, string $stage): array
    {
        $taps = [];
        foreach ($row as $insert) {
            if ($insert instanceof ProcessorInsert) {
                $taps[$insert->id] = [$insert, "{$channel->id}:{$stage}"];
            }
            foreach ($insert->branches() as $branch) {
                $taps += self::row($channel, $branch->inserts, "into:{$insert->id()}");
            }
            $stage = "insert:{$insert->id()}";
        }

        return $taps;
    }
}
