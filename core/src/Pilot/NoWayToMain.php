<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Routing\Route;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\NoteSource;

/** A channel with sound that comes neither to the main nor to a cue. */
final readonly class NoWayToMain implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $main = $facts->session->main();
        $ends = [$main->id];
        foreach ($facts->ofKind(ChannelKind::Cue) as $cue) {
            $ends[] = $cue->id;
        }
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Track, ChannelKind::Note, ChannelKind::Group, ChannelKind::Return) as $channel) {
            $hasSound = match (true) {
                $channel->source instanceof ClipSource => $channel->source->clips !== [],
                $channel->source instanceof NoteSource => $channel->source->notes !== [],
                default => $facts->routes->into($channel->id) !== [],
            };
            $reached = $facts->routes->downstream($channel->id, static fn (Route $route): bool => $route->isOn());
            if (! $hasSound || array_intersect($reached, $ends) !== []) {
                continue;
            }
            $fix = $facts->routes->upstream($main->id) !== [] && in_array($channel->id, $facts->routes->downstream($main->id), true)
                ? null
                : new Fix("Send it to {$main->name}", EditRequest::setOutput([$channel->id], $main->id));
            $advice[] = new Advice('no-way-to-main', Severity::Severe, $channel->id, null,
                "{$channel->name} comes neither to {$main->name} nor to a cue: nobody hears it.", $fix);
        }

        return $advice;
    }
}
