<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Macro\ControlRange;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Macro\MacroMove;
use Hafen\Session\Macro\MacroTarget;

/** Macros of a channel to and from the format; checks that what they move is there, and their values against its range. */
final readonly class MacroCodec
{
    public function __construct(private MacroControls $controls)
    {
    }

    /**
     * @param  Channel  $channel  with its inserts and sends
     * @return list<Macro>
     *
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public function decode(JsonNode $node, Channel $channel): array
    {
        $macros = [];
        foreach ($node->items(Macro::MOST) as $item) {
            $item->keys(['id', 'name'], ['switch', 'value', 'moves']);
            $macro = new Macro($item->get('id')->id(), self::name($item->get('name')), $item->optional('switch')?->boolean() ?? false);
            $macro = $macro->withValue($item->has('value') ? self::value($item->get('value'), $macro) : 0.0);
            foreach ($item->optional('moves')?->items(Macro::MOST_MOVES) ?? [] as $at) {
                $at->keys(['target', 'from', 'to'], ['curve']);
                $move = $this->move($at, $channel);
                if ($macro->move($move->target) !== null) {
                    throw $at->get('target')->expected('something this macro does not move yet');
                }
                $macro = $macro->withMove($move);
            }
            $macros[] = $macro;
        }

        return $macros;
    }

    public static function name(JsonNode $node): string
    {
        return $node->text(1, 60);
    }

    /** 0 to 1; of a switch one of both. */
    public static function value(JsonNode $node, Macro $macro): float
    {
        return $macro->isSwitch ? (float) $node->integer(0, 1) : $node->number(0.0, 1.0);
    }

    /** @throws InvalidDocument when the channel has no such control, or it cannot be so */
    public function move(JsonNode $node, Channel $channel): MacroMove
    {
        $target = $this->target($node->get('target'));
        $range = $this->controls->range($target, $channel) ?? throw $node->get('target')->expected('a control of this channel that is a number or a switch');

        return new MacroMove($target, self::valueOf($node->get('from'), $range), self::valueOf($node->get('to'), $range), $node->optional('curve')?->number(-1.0, 1.0) ?? 0.0);
    }

    /** @throws InvalidDocument when it names none */
    public function target(JsonNode $node): MacroTarget
    {
        return self::targetOf($node->text(1, 200), $node);
    }

    /** @throws InvalidDocument at a place, when a text names no control */
    public static function targetOf(string $text, JsonNode $at): MacroTarget
    {
        return MacroTarget::fromString($text) ?? throw $at->expected('"parameter:ID:NAME", "mix:ID", "on:ID", "send:ID", "branch:ID" or "selector:ID"');
    }

    /**
     * @param  list<Macro>  $macros
     * @return list<array<string, mixed>>
     */
    public static function encode(array $macros): array
    {
        return array_map(static fn (Macro $macro): array => [
            'id' => $macro->id,
            'name' => $macro->name,
            'switch' => $macro->isSwitch,
            'value' => $macro->value,
            'moves' => array_map(static fn (MacroMove $move): array => ['target' => $move->target->text(), 'from' => $move->from, 'to' => $move->to, 'curve' => $move->curve], $macro->moves),
        ], $macros);
    }

    /** @throws InvalidDocument when a control cannot be so */
    public static function valueOf(JsonNode $node, ControlRange $range): ?float
    {
        return match (true) {
            $range->isSwitch => (float) $node->integer(0, 1),
            $range->lowest === null => $node->gain(max: $range->highest),
            default => $node->number($range->lowest, $range->highest, $range->unit),
        };
    }
}
