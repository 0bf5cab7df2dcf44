<?php

declare(strict_types=1);

namespace App\Sessions;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Macro\ControlRange;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Macro\MacroSum;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Macro\MacroTargetKind;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundControls;

/** What macros and sound switches move, as the browser shows it: its name, what it can be, and where it stands. */
final readonly class MacroFacts
{
    private MacroControls $controls;

    private SoundControls $sounds;

    public function __construct(private ProcessorCatalogue $processors)
    {
        $this->controls = new MacroControls($processors);
        $this->sounds = new SoundControls($processors);
    }

    /** @return array<string, array<string, array{name: string, lowest: ?float, highest: float, unit: string, scale: string, value: ?float, reach: array{?float, ?float}}>> by channel id and target; `reach` is where macros can put it; `scale` is "linear", "logarithmic", "fader" or "switch" */
    public function of(Session $session): array
    {
        $facts = [];
        foreach ($session->channels as $channel) {
            foreach (MacroControls::targets($channel) as $target) {
                $range = $this->controls->range($target, $channel);
                if ($range !== null) {
                    $facts[$channel->id][$target->text()] = $this->control($session, $channel, $target, $range);
                }
            }
        }

        return $facts;
    }

    /** @return array<string, array{moves: list<string>, changed: bool}> by id of sound switches: the names of what they move, and whether it stands otherwise now than the chosen sound has it */
    public function ofSounds(Session $session): array
    {
        $facts = [];
        foreach ($session->channels as $channel) {
            foreach ($channel->sounds as $switch) {
                $chosen = $switch->chosen === null ? null : $switch->sound($switch->chosen);
                $facts[$switch->id] = [
                    'moves' => array_map(fn (MacroTarget $target): string => $this->name($session, $channel, $target), $switch->targets()),
                    'changed' => $chosen !== null && $this->sounds->isChanged($channel, $chosen),
                ];
            }
        }

        return $facts;
    }

    /** @return array{name: string, lowest: ?float, highest: float, unit: string, scale: string, value: ?float, reach: array{?float, ?float}} */
    private function control(Session $session, Channel $channel, MacroTarget $target, ControlRange $range): array
    {
        return [
            'name' => $this->name($session, $channel, $target),
            'lowest' => $range->lowest,
            'highest' => $range->highest,
            'unit' => $range->unit,
            'scale' => $range->scale(),
            'value' => $this->controls->value($target, $channel),
            'reach' => MacroSum::reach($channel->macros, $range, $target),
        ];
    }

    private function name(Session $session, Channel $channel, MacroTarget $target): string
    {
        $insert = MacroControls::insert($target->part, $channel);

        return match ($target->kind) {
            MacroTargetKind::Send => 'Send to '.($session->channel(MacroControls::send($target->part, $channel)->to ?? '')->name ?? ''),
            MacroTargetKind::Branch => 'Level of '.(MacroControls::branch($target->part, $channel)->name ?? ''),
            MacroTargetKind::Mix => "{$this->insertName($session, $insert)}: mix",
            MacroTargetKind::Selector => 'Selector',
            MacroTargetKind::On => "{$this->insertName($session, $insert)}: on",
            MacroTargetKind::Parameter => "{$this->insertName($session, $insert)}: ".$this->parameterName($insert, (string) $target->parameter),
        };
    }

    private function insertName(Session $session, ?Insert $insert): string
    {
        return match (true) {
            $insert instanceof ProcessorInsert => $this->processors->spec($insert->processor)->name,
            $insert instanceof Split => 'Split',
            $insert instanceof HardwareInsert => $session->loop($insert->loop)->name ?? 'Hardware',
            default => '',
        };
    }

    private function parameterName(?Insert $insert, string $parameter): string
    {
        $spec = $insert instanceof ProcessorInsert ? $this->processors->spec($insert->processor)->parameter($parameter) : null;

        return $spec === null ? $parameter : trim("{$spec->group} {$spec->label}");
    }
}
