<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;
use Hafen\Session\Channel\Channel;

/** An edit that would change what is frozen. */
final class ChannelsAreFrozen extends EditRefused
{
    /** Names that are told one by one. */
    private const TOLD = 4;

    /** @var list<string> ids of the channels to unfreeze */
    public array $channels = [];

    /** @param  non-empty-list<Channel>  $channels */
    public static function named(array $channels): self
    {
        $names = array_map(static fn (Channel $channel): string => $channel->name, array_slice($channels, 0, self::TOLD));
        $more = count($channels) - count($names);
        $refused = new self('frozen', count($channels) === 1
            ? "{$names[0]} is frozen, and this would change its sound. Unfreeze it first."
            : implode(', ', $names).($more > 0 ? " and {$more} more" : '').' are frozen, and this would change their sound. Unfreeze them first.');
        $refused->channels = array_map(static fn (Channel $channel): string => $channel->id, $channels);

        return $refused;
    }
}
