<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Automation\AutomationKind;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Macro\MacroControls;

/** Automation lanes of a channel to and from the format; checks that what they move is there, and their values against its range. */
final readonly class AutomationCodec
{
    public const MOST_LANES = 256;

    public function __construct(private ProcessorCatalogue $processors)
    {
    }

    /**
     * @param  Channel  $channel  with its inserts and sends
     * @return list<AutomationLane>
     *
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public function decode(?JsonNode $node, Channel $channel): array
    {
        $lanes = [];
        foreach ($node?->items(self::MOST_LANES) ?? [] as $item) {
            $item->keys(['target', 'points']);
            $target = $this->target($item->get('target'), $channel);
            if (isset($lanes[$target->text()])) {
                throw $item->get('target')->expected('something that has no lane yet');
            }
            $points = $this->points($item->get('points'), $target, $channel);
            if ($points === []) {
                throw $item->get('points')->expected('at least one point');
            }
            $lanes[$target->text()] = new AutomationLane($target, $points);
        }

        return array_values($lanes);
    }

    /** @throws InvalidDocument when the channel has no such thing */
    public function target(JsonNode $node, Channel $channel): AutomationTarget
    {
        $target = AutomationTarget::fromString($node->text(1, 200));
        if ($target === null || ! self::exists($target, $channel)) {
            throw $node->expected('"fader", "pan", "mute", or of this channel "send:ID", "mix:ID", "on:ID", "parameter:ID:NAME", "branch:ID", "selector:ID", "macro:ID" or "sound:ID"');
        }
        if ($target->kind === AutomationKind::Parameter && $this->parameter($target, $channel) === null) {
            throw $node->expected('a parameter of this insert that is a number');
        }

        return $target;
    }

    /**
     * @return list<AutomationPoint>
     *
     * @throws InvalidDocument where they do not go forward, or leave the range
     */
    public function points(JsonNode $node, AutomationTarget $target, Channel $channel): array
    {
        $points = [];
        foreach ($node->items(AutomationLane::MOST_POINTS) as $item) {
            $item->keys(['at', 'value'], ['curve']);
            $at = $item->get('at')->integer(0, 1 << 40);
            if ($points !== [] && $at <= $points[count($points) - 1]->at) {
                throw $item->get('at')->expected('a sample after that of the point before');
            }
            $points[] = new AutomationPoint($at, $this->value($item->get('value'), $target, $channel), $item->optional('curve')?->number(-1.0, 1.0) ?? 0.0);
        }

        return $points;
    }

    /** The parameter a lane moves; null where there is none, or it is not a number. */
    public function parameter(AutomationTarget $target, Channel $channel): ?ParameterSpec
    {
        $insert = $target->kind === AutomationKind::Parameter ? MacroControls::insert((string) $target->part, $channel) : null;
        $parameter = $insert instanceof ProcessorInsert ? $this->processors->spec($insert->processor)->parameter((string) $target->parameter) : null;

        return $parameter?->kind === ParameterKind::Number ? $parameter : null;
    }

    /** Whether a channel has what a lane moves. */
    public static function exists(AutomationTarget $target, Channel $channel): bool
    {
        $part = (string) $target->part;
        $insert = $target->isOfInsert() ? MacroControls::insert($part, $channel) : null;

        return match ($target->kind) {
            AutomationKind::Send => MacroControls::send($part, $channel) !== null,
            AutomationKind::Parameter => $insert instanceof ProcessorInsert,
            AutomationKind::Mix => $insert instanceof ProcessorInsert || $insert instanceof HardwareInsert,
            AutomationKind::On => $insert !== null,
            AutomationKind::Branch => MacroControls::branch($part, $channel) !== null,
            AutomationKind::Selector => $insert instanceof Split && $insert->selector !== null,
            AutomationKind::Macro => $channel->macro($part) !== null,
            AutomationKind::Sound => $channel->soundSwitch($part) !== null,
            AutomationKind::Fader, AutomationKind::Pan, AutomationKind::Mute => true,
        };
    }

    /**
     * @param  list<AutomationLane>  $lanes
     * @return list<array<string, mixed>>
     */
    public static function encode(array $lanes): array
    {
        return array_map(static fn (AutomationLane $lane): array => [
            'target' => $lane->target->text(),
            'points' => array_map(static fn (AutomationPoint $point): array => ['at' => $point->at, 'value' => $point->value, 'curve' => $point->curve], $lane->points),
        ], $lanes);
    }

    private function value(JsonNode $node, AutomationTarget $target, Channel $channel): ?float
    {
        $parameter = $this->parameter($target, $channel);

        return match (true) {
            $target->kind->isGain() => $node->gain(),
            $target->kind === AutomationKind::Pan => $node->number(-1.0, 1.0),
            $parameter !== null => $node->number($parameter->min, $parameter->max, $parameter->unit),
            $target->kind === AutomationKind::Sound => (float) $node->integer(0, max(0, count($channel->soundSwitch((string) $target->part)->sounds ?? []) - 1)),
            $target->kind->holds(), $channel->macro((string) $target->part)?->isSwitch === true => (float) $node->integer(0, 1),
            default => $node->number(0.0, 1.0),
        };
    }
}
