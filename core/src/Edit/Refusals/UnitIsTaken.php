<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;
use Hafen\Routing\UnitConflict;

/** A unit of outboard that would be in two places at once. */
final class UnitIsTaken extends EditRefused
{
    public string $loop = '';

    /** @var list<string> ids of the channels it would be on, the one that is in its place first */
    public array $channels = [];

    public static function by(UnitConflict $conflict): self
    {
        [$one, $other] = [$conflict->one->name, $conflict->other->name];
        $places = $one === $other ? "twice on {$one}" : "on {$one} and on {$other}, which sound at the same time";

        $refused = new self('loop', "{$conflict->loop->name} would be {$places}. A unit is in one place at a time: freeze or print {$one}, or bypass it there, and it is free.");
        $refused->loop = $conflict->loop->id;
        $refused->channels = [$conflict->one->id, $conflict->other->id];

        return $refused;
    }
}
