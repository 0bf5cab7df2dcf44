<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Edit\Refusals\ClosesLoop;
use Hafen\Edit\Refusals\CueSendsNowhere;
use Hafen\Edit\Refusals\NeedsInterfacePair;
use Hafen\Edit\Refusals\NotToInterface;
use Hafen\Edit\Refusals\PairIsTaken;
use Hafen\Edit\Refusals\TakesNoOutputs;
use Hafen\Edit\Refusals\TakesNoSends;
use Hafen\Routing\LoopClosed;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Session;

/** The rules of routing: which outputs, sends and taps are allowed. */
final class RoutingRules
{
    /** @throws EditRefused when nothing can be sent there, or from there */
    public static function canSend(Channel $from, Channel $to): void
    {
        if (! $from->kind->canSend()) {
            throw CueSendsNowhere::named($from->name);
        }
        if (! $to->kind->takesSends()) {
            throw TakesNoSends::of($to->name, $to->kind->word());
        }
    }

    /** @throws EditRefused when the output of a channel cannot go there */
    public static function canPutOut(Session $session, Channel $from, string $output): void
    {
        if ($output === 'none') {
            return;
        }
        if ($from->kind->endsAtInterface()) {
            if (! in_array($output, InterfacePorts::pairs(), true)) {
                throw NeedsInterfacePair::of($from->name, $output, InterfacePorts::pairs());
            }
            foreach ($session->channels as $other) {
                if ($other->id !== $from->id && $other->output === $output) {
                    throw PairIsTaken::by($output, $other->name);
                }
            }
            foreach ($session->loops as $loop) {
                if (array_intersect($loop->outputs(), InterfacePorts::numbers($output, 'hw')) !== []) {
                    throw PairIsTaken::by($output, $loop->name);
                }
            }

            return;
        }
        if (InterfacePorts::isPair($output)) {
            throw NotToInterface::from($from->name);
        }
        $to = Channels::find($session, $output);
        if (! $to->kind->takesOutputs()) {
            throw TakesNoOutputs::of($to->name, $to->kind->word());
        }
    }

    /**
     * The session itself.
     *
     * @throws EditRefused naming the loop when sound would go round in it
     */
    public static function withoutLoop(Session $session): Session
    {
        $loop = SessionGraph::routes($session)->loop();
        if ($loop !== null && $loop !== []) {
            throw ClosesLoop::through(LoopClosed::text($session, $loop));
        }

        return $session;
    }
}
