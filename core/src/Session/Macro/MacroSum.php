<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

use Hafen\Session\Automation\Travel;
use LogicException;

/**
 * Where the macros of a channel put a control.
 *
 * With all of them at 0 % it stands where the first of them begins. What each moves it away from its own beginning adds up along the
 * travel of the control, and ends at the ends of its range.
 */
final class MacroSum
{
    /**
     * @param  list<Macro>  $macros  of the channel, in their order
     * @return ?float the value; null is silence
     *
     * @throws LogicException where none of them moves it
     */
    public static function of(array $macros, ControlRange $range, MacroTarget $target): ?float
    {
        [$place, $ways] = self::ways($macros, $range, $target);
        foreach ($ways as [$share, $way]) {
            $place += $share * $way;
        }

        return $range->valueAt($place);
    }

    /**
     * The lowest and the highest value the macros can put a control to.
     *
     * @param  list<Macro>  $macros  of the channel, in their order
     * @return array{?float, ?float}
     *
     * @throws LogicException where none of them moves it
     */
    public static function reach(array $macros, ControlRange $range, MacroTarget $target): array
    {
        [$lowest, $ways] = self::ways($macros, $range, $target);
        $highest = $lowest;
        foreach ($ways as [, $way]) {
            $lowest += min(0.0, $way);
            $highest += max(0.0, $way);
        }

        return [$range->valueAt($lowest), $range->valueAt($highest)];
    }

    /**
     * @param  list<Macro>  $macros
     * @return array{float, non-empty-list<array{float, float}>} where the first begins, and of each how much of its way it has gone and the way, along the travel
     */
    private static function ways(array $macros, ControlRange $range, MacroTarget $target): array
    {
        $first = null;
        $ways = [];
        foreach ($macros as $macro) {
            $move = $macro->move($target);
            if ($move !== null) {
                $from = $range->travel->at($move->from);
                $first ??= $from;
                $ways[] = [Travel::bent($macro->value, $move->curve), $range->travel->at($move->to) - $from];
            }
        }

        return $first === null || $ways === [] ? throw new LogicException("No macro moves {$target->text()}.") : [$first, $ways];
    }
}
