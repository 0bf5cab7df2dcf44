<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

use Hafen\Session\Automation\AutomationCurve;
use Hafen\Session\Automation\ControlCurve;
use Hafen\Session\Channel\Channel;

/** Where the macros of a channel put a control over time, of which one is automated at least. */
final readonly class MacroCurve implements ControlCurve
{
    /**
     * @param  list<Macro>  $macros  that move the control
     * @param  array<string, AutomationCurve>  $curves  of those that are automated, by id
     */
    private function __construct(private array $macros, private array $curves, private ControlRange $range, private MacroTarget $target)
    {
    }

    /** Null where no automated macro moves the control. */
    public static function of(Channel $channel, MacroTarget $target, ControlRange $range): ?self
    {
        $macros = $curves = [];
        foreach ($channel->macros as $macro) {
            if ($macro->move($target) === null) {
                continue;
            }
            $macros[] = $macro;
            $lane = $channel->lane("macro:{$macro->id}");
            if ($lane !== null) {
                $curves[$macro->id] = new AutomationCurve($lane, holds: $macro->isSwitch);
            }
        }

        return $curves === [] ? null : new self($macros, $curves, $range, $target);
    }

    public function at(int $position): ?float
    {
        $macros = array_map(
            fn (Macro $macro): Macro => isset($this->curves[$macro->id]) ? $macro->withValue((float) $this->curves[$macro->id]->at($position)) : $macro,
            $this->macros,
        );

        return MacroSum::of($macros, $this->range, $this->target);
    }
}
