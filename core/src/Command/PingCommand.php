<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Edit\Hardware\Loops;
use Hafen\Hardware\Ping;

/** Measures a hardware loop of a session with the stand-ins that ship with Hafen. */
final readonly class PingCommand implements Command
{
    public function name(): string
    {
        return 'ping';
    }

    public function usage(): string
    {
        return 'ping SESSION.json LOOP [--json] [--offline-hardware]    LOOP is the id of a loop';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json', 'LOOP'], [], ['json']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $session = $terminal->open($arguments->position(0));
        $loop = Loops::find($session, $arguments->position(1));
        $interface = $terminal->paced($terminal->simulated($session), $session, sprintf('Pings %s, which takes about %.1f seconds.', $loop->name, Ping::seconds($session->sampleRate)));
        $found = (new Ping($interface, $session->sampleRate))->measure($loop);
        if ($arguments->has('json')) {
            $terminal->json(['samples' => $found->delay->samples, 'buffer' => $found->delay->buffer, 'level' => $found->level, 'isInverted' => $found->isInverted, 'noise' => $found->noise]);

            return 0;
        }
        $terminal->say(sprintf('%s: %.2f samples (%.2f ms) with a buffer of %d', $loop->name, $found->delay->samples, 1000 * $found->delay->samples / $session->sampleRate, $found->delay->buffer));
        $terminal->say(sprintf('it comes back at %+.2f dB%s%s', $found->level, $found->isInverted ? ', upside down' : '', $found->noise === null ? '' : sprintf(', its noise at %.1f dBFS', $found->noise)));

        return 0;
    }
}
