<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Routing\Route;
use Hafen\Routing\RouteKind;
use Hafen\Session\Channel\ChannelKind;

/** A bus nothing comes to: it costs load and room on the screen. */
final readonly class NothingArrives implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Group, ChannelKind::Return, ChannelKind::Cue) as $bus) {
            if ($facts->routes->into($bus->id) === []) {
                $isTapped = array_filter($facts->routes->outOf($bus->id), static fn (Route $route): bool => $route->kind === RouteKind::Tap) !== [];
                $advice[] = new Advice('nothing-arrives', Severity::Information, $bus->id, null,
                    "Nothing comes to {$bus->name}; it still costs its effects.",
                    $isTapped ? null : new Fix('Remove it', EditRequest::removeChannels([$bus->id])));
            }
        }

        return $advice;
    }
}
