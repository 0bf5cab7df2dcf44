<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Routing\Route;
use Hafen\Session\ChannelKind;
use Hafen\Session\ClipSource;

/** A channel with sound that comes neither to the main nor to a cue. */
final readonly class NoWayToMain implements Check
{
    public function notes(Chart $chart): array
    {
        $main = $chart->session->main();
        $ends = [$main->id];
        foreach ($chart->ofKind(ChannelKind::Cue) as $cue) {
            $ends[] = $cue->id;
        }
        $notes = [];
        foreach ($chart->ofKind(ChannelKind::Track, ChannelKind::Group, ChannelKind::Return) as $channel) {
            $hasSound = $channel->source instanceof ClipSource ? $channel->source->clips !== [] : $chart->routes->into($channel->id) !== [];
            $reached = $chart->routes->downstream($channel->id, static fn (Route $route): bool => $route->isOn());
            if (! $hasSound || array_intersect($reached, $ends) !== []) {
                continue;
            }
            $mend = $chart->routes->upstream($main->id) !== [] && in_array($channel->id, $chart->routes->downstream($main->id), true)
                ? null
                : new Mend("Send it to {$main->name}", ['type' => 'set-output', 'channels' => [$channel->id], 'output' => $main->id]);
            $notes[] = new Note('no-way-to-main', Severity::Severe, $channel->id, null,
                "{$channel->name} comes neither to {$main->name} nor to a cue: nobody hears it.", $mend);
        }

        return $notes;
    }
}
