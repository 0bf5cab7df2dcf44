<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Headroom\Rework\Remeasured;
use Hafen\Metering\TapReading;
use Hafen\Session\Session;

/** A level-dependent insert that gets another level than before, in dB. */
final readonly class FedDifferently
{
    public function __construct(public string $channel, public string $insert, public string $processor, public float $by)
    {
    }

    /**
     * @param  Session  $after  the situation's session after some edits
     * @param  array<string, TapReading>  $was  readings of the session as it is, by tap key
     * @return list<self> level-dependent inserts at work that are fed a tenth of a dB or more differently
     */
    public static function among(Situation $situation, Session $after, array $was, Remeasured $is): array
    {
        $fed = [];
        foreach ($situation->session->channels as $channel) {
            $now = InputTaps::of($after->channel($channel->id) ?? $channel);
            foreach ($channel->insertsOn ? InputTaps::of($channel) : [] as $id => [$insert, $tap]) {
                $one = ($was[InputTaps::heard($insert, $tap)] ?? null)?->rmsLevel();
                $two = $is->rmsLevel(InputTaps::heard($insert, $now[$id][1] ?? ''), $was);
                if ($insert->on && $insert->mix > 0.0 && $situation->spec($insert)->levelDependent && $one !== null && $two !== null && abs($two - $one) >= 0.1) {
                    $fed[] = new self($channel->id, (string) $id, $insert->processor, $two - $one);
                }
            }
        }

        return $fed;
    }
}
