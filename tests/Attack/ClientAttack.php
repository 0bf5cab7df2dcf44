<?php

declare(strict_types=1);

namespace Tests\Attack;

/** Several windows that edit the same session at once, each on the state it saw last. */
final class ClientAttack
{
    private const CLIENTS = 4;

    /** @param  list<string>  $channels  of the session */
    public static function run(int $edits, Http $http, int $session, array $channels): Outcome
    {
        $outcome = new Outcome('parallel clients');
        [, $before] = $http->json('GET', "sessions/{$session}");
        $share = intdiv($edits, self::CLIENTS);
        $found = Parallel::run(self::CLIENTS, static function (int $client) use ($share, $http, $session, $channels, $before): array {
            mt_srand(2000 + $client);
            $base = $before['change'];
            $mine = $channels[$client];
            [$stored, $stale, $faults, $last, $change] = [0, 0, [], null, 0];
            for ($i = 0; $i < $share; ++$i) {
                $gain = round(-60 + mt_rand(0, 60_000) / 1000, 3);
                // Now and then another's fader, so that they do get into each other's way.
                $channel = mt_rand(0, 4) === 0 ? $channels[4] : $mine;
                [$status, $answer] = $http->json('POST', "sessions/{$session}/edits", ['base' => $base, 'edit' => ['type' => 'set-fader', 'channels' => [$channel], 'gain' => $gain]]);
                if ($status === 200) {
                    ++$stored;
                    $base = $answer['change'];
                    $last = $channel === $mine ? $gain : $last;
                } elseif ($status === 409) {
                    ++$stale;
                    $base = $http->json('GET', "sessions/{$session}")[1]['change'];
                } else {
                    $faults[] = "{$status} ".json_encode($answer);
                }
            }

            return [$stored, $stale, $faults, $mine, $last];
        });
        [, $after] = $http->json('GET', "sessions/{$session}");
        $faders = array_column($after['document']['channels'], 'fader', 'id');
        $stored = 0;
        foreach ($found as [$mineStored, $stale, $faults, $channel, $last]) {
            $stored += $mineStored;
            $outcome->tried($mineStored + $stale + count($faults));
            $outcome->note('stored', $mineStored);
            $outcome->note('stale', $stale);
            foreach ($faults as $fault) {
                $outcome->broke('faults', $fault);
            }
            if ($last !== null && abs($faders[$channel] - $last) > 1e-9) {
                $outcome->broke('lost', "{$channel} is at {$faders[$channel]}, the last that was acknowledged is {$last}");
            }
        }
        // Each acknowledged edit is one change; the same value twice is none.
        if ($stored < $after['change'] - $before['change'] || $stored - 5 > $after['change'] - $before['change']) {
            $outcome->broke('lost', "{$stored} were acknowledged, the session changed ".($after['change'] - $before['change']).' times');
        }

        return $outcome;
    }
}
