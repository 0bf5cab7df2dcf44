<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Refusal;
use Hafen\Session\Hardware\HardwareLoop;

/** A unit of outboard that is not plugged in where its loop goes. */
final class UnitUnplugged extends Refusal
{
    public static function before(HardwareLoop $loop): self
    {
        return new self('loop', "Nothing is plugged in where {$loop->name} goes out ({$loop->send}) and comes back ({$loop->return}). Plug its unit in there, in Inputs.");
    }

    public static function meanwhile(HardwareLoop $loop): self
    {
        return new self('loop', "{$loop->name} was unplugged while sound went through it. Nothing was kept. Plug it in, ping it, and begin again.");
    }

    /** @throws self when the unit of a loop is not where the loop goes, as far as it is known */
    public static function unless(HardwareLoop $loop, InterfaceProfile $profile): void
    {
        if (! self::isPlugged($loop, $profile)) {
            throw self::before($loop);
        }
    }

    /** Whether something comes back where a loop does: its unit, where that is known. */
    public static function isPlugged(HardwareLoop $loop, InterfaceProfile $profile): bool
    {
        $unit = $profile->units[$loop->unit ?? ''] ?? null;
        if ($unit !== null) {
            return $unit->send === $loop->send && $unit->return === $loop->return;
        }
        foreach ($loop->inputs() as $port) {
            if (($profile->inputs[$port] ?? null)?->plug === PlugKind::Nothing) {
                return false;
            }
        }

        return true;
    }
}
