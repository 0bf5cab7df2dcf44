<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Routing\LoopClosed;
use Hafen\Routing\Routes;
use Hafen\Session\AudioInterface;
use Hafen\Session\Channel;
use Hafen\Session\Session;

/** The rules of where sound may go. */
final class RoutingRules
{
    /** @throws EditRefused when nothing can be sent there, or from there */
    public static function canSend(Channel $from, Channel $to): void
    {
        if (! $from->kind->canSend()) {
            throw EditRefused::cueEnds($from->name);
        }
        if (! $to->kind->takesSends()) {
            throw EditRefused::takesNoSends($to->name, $to->kind->word());
        }
    }

    /** @throws EditRefused when the output of a channel cannot go there */
    public static function canPutOut(Session $session, Channel $from, string $output): void
    {
        if ($output === 'none') {
            return;
        }
        if ($from->kind->endsAtInterface()) {
            if (! in_array($output, AudioInterface::pairs(), true)) {
                throw EditRefused::needsPair($from->name, $output, AudioInterface::pairs());
            }
            foreach ($session->channels as $other) {
                if ($other->id !== $from->id && $other->output === $output) {
                    throw EditRefused::pairTaken($output, $other->name);
                }
            }

            return;
        }
        if (AudioInterface::isPair($output)) {
            throw EditRefused::notToInterface($from->name);
        }
        $to = Channels::find($session, $output);
        if (! $to->kind->takesOutputs()) {
            throw EditRefused::takesNoOutputs($to->name, $to->kind->word());
        }
    }

    /**
     * The session itself.
     *
     * @throws EditRefused naming the loop when sound would go round in it
     */
    public static function withoutLoop(Session $session): Session
    {
        $loop = Routes::of($session)->loop();
        if ($loop !== null && $loop !== []) {
            throw EditRefused::closesLoop(LoopClosed::text($session, $loop));
        }

        return $session;
    }
}
