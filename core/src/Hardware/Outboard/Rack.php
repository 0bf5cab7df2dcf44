<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use OutOfBoundsException;

/** All units of outboard there are. */
final class Rack
{
    /** @var list<class-string<Circuit>> */
    private const CIRCUITS = [SpringTank::class, TubeLeveller::class, TapeLoop::class, PassiveEqualiser::class];

    /** @return array<string, UnitSpec> by id */
    public static function specs(): array
    {
        $specs = [];
        foreach (self::CIRCUITS as $circuit) {
            $spec = $circuit::spec();
            $specs[$spec->id] = $spec;
        }

        return $specs;
    }

    /** @return list<string> */
    public static function ids(): array
    {
        return array_map(static fn (string $circuit): string => $circuit::spec()->id, self::CIRCUITS);
    }

    /** @return class-string<Circuit> */
    public static function circuit(string $id): string
    {
        foreach (self::CIRCUITS as $circuit) {
            if ($circuit::spec()->id === $id) {
                return $circuit;
            }
        }
        throw new OutOfBoundsException("There is no unit \"{$id}\".");
    }
}
