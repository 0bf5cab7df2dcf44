<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Routing\Route;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveSource;
use Hafen\Session\Source\NoteSource;

/** What a new revision takes apart in what runs: routes that go, and channels whose row is built anew. Both fade out before. */
final readonly class PlanChange
{
    /**
     * @param  list<string>  $gone  ids of routes
     * @param  list<string>  $rebuilt  channel ids
     * @param  bool  $needsFade  false where the revision can be taken at once
     */
    private function __construct(public array $gone, public array $rebuilt, public bool $needsFade)
    {
    }

    /**
     * @param  Plan  $plan  that runs
     * @param  array<string, int>  $arrivals  latency at the sources of the new revision, by channel id; see {@see Compiler::arrivals()}
     */
    public static function between(Plan $plan, Session $session, array $arrivals): self
    {
        $before = SessionGraph::routes($plan->session);
        $after = SessionGraph::routes($session);
        // Sidechain feeds are not audible by themselves, so they need no fade-out before a rebuild.
        $gone = array_diff_key(self::routeIds($before->all()), self::routeIds($before->sidechains()), self::routeIds($after->all()));
        $hasSidechains = $before->sidechains() !== [] || $after->sidechains() !== [];
        $rebuilt = [...self::rebuiltChannels($plan->session, $session), ...($hasSidechains ? self::shifted($plan, $session, $arrivals) : [])];

        return new self(
            array_map(strval(...), array_keys($gone)),
            array_values(array_unique($rebuilt)),
            $rebuilt !== [] || $gone !== [] || array_diff(self::channelIds($session), self::channelIds($plan->session)) !== [],
        );
    }

    /**
     * The same where channels are built anew in another process as well.
     *
     * @param  list<string>  $channels  ids
     */
    public function moving(array $channels): self
    {
        return $channels === [] ? $this : new self($this->gone, array_values(array_unique([...$this->rebuilt, ...$channels])), true);
    }

    /**
     * @param  list<Route>  $routes
     * @return array<string, int> ids as keys
     */
    private static function routeIds(array $routes): array
    {
        return array_flip(array_map(static fn (Route $route): string => $route->id(), $routes));
    }

    /**
     * @param  array<string, int>  $arrivals
     * @return list<string> channels whose clips have to wait longer or shorter, because of what their inserts listen to
     */
    private static function shifted(Plan $plan, Session $session, array $arrivals): array
    {
        return array_values(array_filter(
            self::channelIds($session),
            static fn (string $id): bool => ($plan->session->channel($id)?->source instanceof ClipSource || $plan->session->channel($id)?->source instanceof NoteSource) && $arrivals[$id] !== $plan->arrival($id),
        ));
    }

    /** @return list<string> channels whose row of inserts is not the same processors in the same order, or that are frozen, unfrozen, switched off or on, or whose live input comes or goes */
    private static function rebuiltChannels(Session $before, Session $after): array
    {
        $rebuilt = [];
        foreach ($before->channels as $channel) {
            $now = $after->channel($channel->id);
            if ($now === null || self::port($channel) !== self::port($now) || $channel->frozen?->file !== $now->frozen?->file || $channel->off !== $now->off || self::shape($channel->inserts) !== self::shape($now->inserts) || self::shape($channel->postInserts) !== self::shape($now->postInserts)) {
                $rebuilt[] = $channel->id;
            }
        }

        return $rebuilt;
    }

    private static function port(Channel $channel): ?string
    {
        return $channel->source instanceof LiveSource ? $channel->source->port : null;
    }

    /**
     * Describes which inserts stand in which order.
     *
     * @param  list<Insert>  $inserts
     * @return list<mixed>
     */
    private static function shape(array $inserts): array
    {
        return array_map(static fn (Insert $insert): mixed => $insert instanceof Split
            ? [$insert->id, $insert->by, array_map(static fn (Branch $branch): array => [$branch->id, self::shape($branch->inserts)], $insert->branches)]
            : ($insert instanceof HardwareInsert ? [$insert->id, $insert->loop] : $insert->id()), $inserts);
    }

    /** @return list<string> */
    private static function channelIds(Session $session): array
    {
        return array_map(static fn (Channel $channel): string => $channel->id, $session->channels);
    }
}
