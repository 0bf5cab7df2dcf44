<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Hardware\MeasuredDelay;
use Hafen\Session\Hardware\Recall;

/** The hardware loops of a session, to and from the format. */
final class LoopCodec
{
    public const MOST = 16;

    /** How far a level can be trimmed, in dB. */
    public const FARTHEST_TRIM = 40.0;

    public const LONGEST_TAIL = 60_000.0;

    /** Samples a ping can measure. */
    public const LONGEST_DELAY = 384_000.0;

    /**
     * @return list<HardwareLoop>
     *
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public static function decode(?JsonNode $node): array
    {
        return $node === null ? [] : array_map(self::loop(...), $node->items(self::MOST));
    }

    /**
     * @param  list<HardwareLoop>  $loops
     * @return list<array<string, mixed>>
     */
    public static function encode(array $loops): array
    {
        return array_map(static fn (HardwareLoop $loop): array => [
            'id' => $loop->id,
            'name' => $loop->name,
            'send' => $loop->send,
            'return' => $loop->return,
            ...($loop->unit === null ? [] : ['unit' => $loop->unit]),
            'sendTrim' => $loop->sendTrim,
            'returnTrim' => $loop->returnTrim,
            'invert' => $loop->invert,
            'tail' => $loop->tail,
            ...($loop->delay === null ? [] : ['delay' => ['samples' => $loop->delay->samples, 'buffer' => $loop->delay->buffer]]),
            ...($loop->recall === null ? [] : ['recall' => ['knobs' => (object) $loop->recall->knobs, 'notes' => $loop->recall->notes]]),
        ], $loops);
    }

    /** @param  'in'|'hw'  $way */
    public static function ports(JsonNode $node, string $way): string
    {
        $ports = $node->text(1, 20);
        $numbers = InterfacePorts::numbers($ports, $way);
        $most = $way === 'in' ? InterfacePorts::INPUTS : InterfacePorts::OUTPUTS;

        return $numbers !== [] && max($numbers) <= $most ? $ports : throw $node->expected("a port from \"{$way}:1\" to \"{$way}:{$most}\", or two that follow each other, such as \"{$way}:3-4\"");
    }

    public static function trim(JsonNode $node): float
    {
        return $node->number(-self::FARTHEST_TRIM, self::FARTHEST_TRIM, 'dB');
    }

    public static function tail(JsonNode $node): float
    {
        return $node->number(0.0, self::LONGEST_TAIL, 'ms');
    }

    public static function delay(JsonNode $node): MeasuredDelay
    {
        $node->keys(['samples', 'buffer']);

        return new MeasuredDelay($node->get('samples')->number(0.0, self::LONGEST_DELAY, 'samples'), $node->get('buffer')->integer(1, 1 << 16));
    }

    public static function recall(JsonNode $node): Recall
    {
        $node->keys(['knobs'], ['notes']);
        $knobs = [];
        foreach ($node->get('knobs')->entries() as $id => $value) {
            $plain = $value->value;
            if (! is_scalar($plain) || count($knobs) >= 64 || strlen((string) $id) > 64) {
                throw $value->expected('a number, a text or true or false, for at most 64 knobs');
            }
            $knobs[(string) $id] = is_int($plain) ? (float) $plain : $plain;
        }

        return new Recall($knobs, $node->optional('notes')?->text(0, 4000) ?? '');
    }

    private static function loop(JsonNode $node): HardwareLoop
    {
        $node->keys(['id', 'name', 'send', 'return'], ['unit', 'sendTrim', 'returnTrim', 'invert', 'tail', 'delay', 'recall']);
        $loop = new HardwareLoop(
            $node->get('id')->id(),
            $node->get('name')->text(1, 120),
            self::ports($node->get('send'), 'hw'),
            self::ports($node->get('return'), 'in'),
            $node->optional('unit')?->id(),
            $node->has('sendTrim') ? self::trim($node->get('sendTrim')) : 0.0,
            $node->has('returnTrim') ? self::trim($node->get('returnTrim')) : 0.0,
            $node->optional('invert')?->boolean() ?? false,
            $node->has('tail') ? self::tail($node->get('tail')) : 2000.0,
            $node->has('delay') ? self::delay($node->get('delay')) : null,
            $node->has('recall') ? self::recall($node->get('recall')) : null,
        );

        return count($loop->inputs()) === count($loop->outputs()) ? $loop : throw $node->get('return')->expected('as many ports as the send has');
    }
}
