<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

use Hafen\Session\FreshIds;
use Hafen\Session\Sound\Sound;
use Hafen\Session\Sound\SoundSwitch;

/** The macros and sound switches that go with inserts that are kept outside a session, such as a stored row. */
final readonly class RowControls
{
    /**
     * @param  list<Macro>  $macros
     * @param  list<SoundSwitch>  $sounds
     */
    public function __construct(public array $macros = [], public array $sounds = [])
    {
    }

    /**
     * The same under new ids, for copies of the inserts.
     *
     * @param  array<string, string>  $copies  ids of the copies of inserts and branches, by the ids they had
     */
    public function copied(array $copies, FreshIds $ids): self
    {
        return new self(
            array_map(static fn (Macro $macro): Macro => self::macro($macro, $copies)->withId($ids->macro()), $this->macros),
            array_map(static fn (SoundSwitch $switch): SoundSwitch => self::switch($switch, $copies, $ids), $this->sounds),
        );
    }

    /** @param  array<string, string>  $copies */
    private static function macro(Macro $macro, array $copies): Macro
    {
        $moves = [];
        foreach ($macro->moves as $move) {
            $target = $move->target->of($copies[$move->target->part] ?? $move->target->part);
            $moves[] = new MacroMove($target, $move->from, $move->to, $move->curve);
        }

        return $macro->withMoves($moves);
    }

    /** @param  array<string, string>  $copies */
    private static function switch(SoundSwitch $switch, array $copies, FreshIds $ids): SoundSwitch
    {
        $chosen = null;
        $sounds = [];
        foreach ($switch->sounds as $sound) {
            $values = [];
            foreach ($sound->values as $text => $value) {
                $target = MacroTarget::fromString((string) $text);
                $values[$target === null ? (string) $text : $target->of($copies[$target->part] ?? $target->part)->text()] = $value;
            }
            $sounds[] = $copy = new Sound($ids->sound(), $sound->name, $values);
            $chosen = $sound->id === $switch->chosen ? $copy->id : $chosen;
        }

        return new SoundSwitch($ids->soundSwitch(), $switch->name, $sounds, $chosen, $switch->fade);
    }
}
