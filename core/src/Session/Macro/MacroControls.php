<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Send;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** The controls of a channel as macros move them: whether they are there, what they can be, and set. */
final readonly class MacroControls
{
    public function __construct(private ProcessorCatalogue $processors)
    {
    }

    /** What a control of a channel can be; null where it is not there, or no macro can move it. */
    public function range(MacroTarget $target, Channel $channel): ?ControlRange
    {
        $insert = self::insert($target->part, $channel);

        return match ($target->kind) {
            MacroTargetKind::Send => self::send($target->part, $channel) === null ? null : ControlRange::ofGain(),
            MacroTargetKind::Branch => self::branch($target->part, $channel) === null ? null : ControlRange::ofGain(),
            MacroTargetKind::On => $insert === null ? null : ControlRange::ofSwitch(),
            MacroTargetKind::Selector => self::selector($insert) === null ? null : ControlRange::ofMix(),
            MacroTargetKind::Mix => $insert instanceof ProcessorInsert || $insert instanceof HardwareInsert ? ControlRange::ofMix() : null,
            MacroTargetKind::Parameter => $insert instanceof ProcessorInsert ? $this->ofParameter($insert, (string) $target->parameter) : null,
        };
    }

    /** Where a control stands, as macros have it: 0 or 1 of a switch; null is silence, or no such control. */
    public function value(MacroTarget $target, Channel $channel): ?float
    {
        $insert = self::insert($target->part, $channel);

        return match ($target->kind) {
            MacroTargetKind::Send => self::send($target->part, $channel)?->gain,
            MacroTargetKind::Branch => self::branch($target->part, $channel)?->gain,
            MacroTargetKind::On => $insert === null ? null : (float) $insert->isOn(),
            MacroTargetKind::Selector => self::selector($insert)?->value,
            MacroTargetKind::Mix => $insert instanceof ProcessorInsert || $insert instanceof HardwareInsert ? $insert->mix : null,
            MacroTargetKind::Parameter => $insert instanceof ProcessorInsert
                ? (float) ($insert->parameters[(string) $target->parameter] ?? $this->processors->spec($insert->processor)->parameter((string) $target->parameter)->default ?? 0.0)
                : null,
        };
    }

    /**
     * The session with all that the macros of a channel move where they put it.
     *
     * @param  ?list<MacroTarget>  $targets  only these; null is all of them
     */
    public function moved(Session $session, string $channelId, ?array $targets = null): Session
    {
        $channel = $session->channel($channelId);
        if ($channel === null) {
            return $session;
        }
        foreach ($targets ?? self::targets($channel) as $target) {
            $range = $this->range($target, $channel);
            if ($range !== null) {
                $session = $this->set($session, $target, MacroSum::of($channel->macros, $range, $target));
            }
        }

        return $session;
    }

    /** @return list<MacroTarget> what the macros of a channel move, each once */
    public static function targets(Channel $channel): array
    {
        $targets = [];
        foreach ($channel->macros as $macro) {
            foreach ($macro->targets() as $target) {
                $targets[$target->text()] = $target;
            }
        }

        return array_values($targets);
    }

    /** The session with a control set; as it is where there is no such control. */
    public function set(Session $session, MacroTarget $target, ?float $value): Session
    {
        if ($target->kind === MacroTargetKind::Send) {
            $location = $session->send($target->part);

            return $location === null ? $session : $session->withChannel($location->channel->withSends(array_map(
                static fn (Send $send): Send => $send->id === $target->part ? $send->withGain($value) : $send,
                $location->channel->sends,
            )));
        }
        if ($target->kind === MacroTargetKind::Branch) {
            $location = $session->branch($target->part);

            return $location === null ? $session : $session->withBranch($location, $location->branch->withGain($value));
        }
        $location = $session->locate($target->part);

        return $location === null ? $session : $session->withInsert($location, $this->changed($location->insert, $target, (float) $value));
    }

    private function changed(Insert $insert, MacroTarget $target, float $value): Insert
    {
        return match (true) {
            $target->kind === MacroTargetKind::On => $insert->withOn($value >= 0.5),
            $target->kind === MacroTargetKind::Selector => $insert instanceof Split ? $insert->withSelector(self::selector($insert)?->withValue($value)) : $insert,
            $target->kind === MacroTargetKind::Mix && ($insert instanceof ProcessorInsert || $insert instanceof HardwareInsert) => $insert->withMix($value),
            $insert instanceof ProcessorInsert => $insert->withParameter((string) $target->parameter, $this->isToggle($insert, (string) $target->parameter) ? $value >= 0.5 : $value),
            default => $insert,
        };
    }

    private static function selector(?Insert $insert): ?Selector
    {
        return $insert instanceof Split ? $insert->selector : null;
    }

    private function isToggle(ProcessorInsert $insert, string $parameter): bool
    {
        return $this->processors->spec($insert->processor)->parameter($parameter)?->kind === ParameterKind::Toggle;
    }

    private function ofParameter(ProcessorInsert $insert, string $parameter): ?ControlRange
    {
        $spec = $this->processors->spec($insert->processor)->parameter($parameter);

        return $spec === null ? null : ControlRange::ofParameter($spec);
    }

    public static function insert(string $id, Channel $channel): ?Insert
    {
        foreach ($channel->allInserts() as $insert) {
            if ($insert->id() === $id) {
                return $insert;
            }
        }

        return null;
    }

    public static function branch(string $id, Channel $channel): ?Branch
    {
        foreach ($channel->allInserts() as $insert) {
            foreach ($insert->branches() as $branch) {
                if ($branch->id === $id) {
                    return $branch;
                }
            }
        }

        return null;
    }

    public static function send(string $id, Channel $channel): ?Send
    {
        foreach ($channel->sends as $send) {
            if ($send->id === $id) {
                return $send;
            }
        }

        return null;
    }
}
