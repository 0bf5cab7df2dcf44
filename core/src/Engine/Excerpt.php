<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Engine\Parallel\Part;
use Hafen\Engine\Parallel\SumKey;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Session;

/**
 * One channel to be worked, by itself, with others, or up to where others feed it; those, and the channel itself where only what
 * comes from its fader on is wanted, are replayed.
 */
final readonly class Excerpt
{
    /**
     * @param  array<string, array<string, Replay>>  $replays  by channel id and stage
     * @param  list<string>  $with  ids of further channels to be worked
     * @param  list<SumKey>  $sums  parts of what feeds channels elsewhere, to be summed as well
     * @param  array<string, KnownInput>  $inputs  of channels whose feeds are known, by channel id
     */
    public function __construct(public string $channel, public array $replays, private array $with = [], public array $sums = [], public array $inputs = [])
    {
    }

    /** A channel with all that feeds it and all that is listened to on the way. */
    public static function withFeeds(Session $session, string $channel): self
    {
        return new self($channel, [], SessionGraph::routes($session)->needed($channel));
    }

    /** What a process works of a session. */
    public static function part(Part $part): self
    {
        return new self($part->channels[0] ?? '', [], $part->channels, $part->sums);
    }

    public function has(string $channel): bool
    {
        return $channel === $this->channel || isset($this->replays[$channel]) || in_array($channel, $this->with, true);
    }
}
