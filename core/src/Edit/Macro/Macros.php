<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Refusals\NoSuchMacro;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Macro\MacroLocation;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Macro\MacroTargetKind;
use Hafen\Session\Session;

/** Finds macros, and names them and what they move. */
final class Macros
{
    public static function find(Session $session, string $id): MacroLocation
    {
        return $session->macro($id) ?? throw NoSuchMacro::withId($id);
    }

    /** "Bite of Upright bass". */
    public static function named(Session $session, string $id): string
    {
        $location = $session->macro($id);

        return $location === null ? 'Macro' : "{$location->macro->name} of {$location->channel->name}";
    }

    /** @return list<string> the parts of a session a macro moves */
    public static function paths(Macro $macro): array
    {
        return array_map(self::path(...), $macro->targets());
    }

    /** The part of a session that holds a control, see {@see \Hafen\Edit\Edit::touches()}. */
    public static function path(MacroTarget $target): string
    {
        return match ($target->kind) {
            MacroTargetKind::Parameter => "inserts/{$target->part}/parameters/{$target->parameter}",
            MacroTargetKind::Mix => "inserts/{$target->part}/mix",
            MacroTargetKind::On => "inserts/{$target->part}/on",
            MacroTargetKind::Send => "sends/{$target->part}/gain",
            MacroTargetKind::Branch => "branches/{$target->part}/gain",
            MacroTargetKind::Selector => "inserts/{$target->part}/selector",
        };
    }
}
