<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Closure;
use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\LoopCodec;
use Hafen\Edit\Edit;
use Hafen\Edit\Hardware\AddHardware;
use Hafen\Edit\Hardware\AddLoop;
use Hafen\Edit\Hardware\RemoveLoop;
use Hafen\Edit\Hardware\SetLoop;
use Hafen\Edit\Insert\InsertPosition;
use Hafen\Edit\Insert\Rows;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Insert\Row;

/** The edits of hardware loops, from JSON; {@see EditCodec}. */
final class LoopEditCodec
{
    /** What of a loop can be set, and what it is called. */
    private const FIELDS = [
        'name' => 'name', 'send' => 'ports', 'return' => 'ports', 'unit' => 'unit', 'sendTrim' => 'send level', 'returnTrim' => 'return level',
        'invert' => 'polarity', 'tail' => 'tail', 'delay' => 'delay', 'recall' => 'settings',
    ];

    /**
     * @return ?Edit null when the name is of none of these
     *
     * @throws InvalidDocument with the JSON pointer of the field
     */
    public static function decode(string $name, JsonNode $node): ?Edit
    {
        return match ($name) {
            'add-loop' => new AddLoop(self::added($node->keys(['type', 'name', 'send', 'return'], ['unit']))),
            'set-loop' => self::set($node->keys(['type', 'loop'], array_keys(self::FIELDS))),
            'remove-loop' => new RemoveLoop($node->keys(['type', 'loop'])->get('loop')->id()),
            'add-hardware' => self::inRow($node->keys(['type', 'loop', 'channel'], ['row', 'at', 'branch'])),
            default => null,
        };
    }

    private static function added(JsonNode $node): HardwareLoop
    {
        $loop = new HardwareLoop('', $node->get('name')->text(1, 120), LoopCodec::ports($node->get('send'), 'hw'), LoopCodec::ports($node->get('return'), 'in'), $node->optional('unit')?->id());

        return self::matching($loop, $node);
    }

    private static function set(JsonNode $node): SetLoop
    {
        $fields = array_intersect_key(self::FIELDS, $node->entries());
        if ($fields === []) {
            throw $node->expected('something to set: '.implode(', ', array_keys(self::FIELDS)));
        }
        // Read before any is applied: what is wrong is refused with its field.
        $changes = [];
        foreach (array_keys($fields) as $field) {
            $changes[] = self::change($field, $node->get($field));
        }

        return new SetLoop($node->get('loop')->id(), implode(' and ', array_unique($fields)), static fn (HardwareLoop $loop): HardwareLoop => self::matching(
            array_reduce($changes, static fn (HardwareLoop $loop, Closure $change): HardwareLoop => $change($loop), $loop),
            $node,
        ));
    }

    /** @return Closure(HardwareLoop): HardwareLoop */
    private static function change(string $field, JsonNode $node): Closure
    {
        switch ($field) {
            case 'name':
                $name = $node->text(1, 120);

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->with(['name' => $name]);
            case 'send':
                $send = LoopCodec::ports($node, 'hw');

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->withPorts($send, $loop->return);
            case 'return':
                $return = LoopCodec::ports($node, 'in');

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->withPorts($loop->send, $return);
            case 'unit':
                $unit = $node->value === null ? null : $node->id();

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->withUnit($unit);
            case 'sendTrim':
                $trim = LoopCodec::trim($node);

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->with(['sendTrim' => $trim]);
            case 'returnTrim':
                $trim = LoopCodec::trim($node);

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->with(['returnTrim' => $trim]);
            case 'invert':
                $invert = $node->boolean();

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->with(['invert' => $invert]);
            case 'tail':
                $tail = LoopCodec::tail($node);

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->with(['tail' => $tail]);
            case 'delay':
                $delay = $node->value === null ? null : LoopCodec::delay($node);

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->with(['delay' => $delay]);
            default:
                $recall = $node->value === null ? null : LoopCodec::recall($node);

                return static fn (HardwareLoop $loop): HardwareLoop => $loop->with(['recall' => $recall]);
        }
    }

    /** @throws InvalidDocument when it comes back on more or fewer ports than it goes out on */
    private static function matching(HardwareLoop $loop, JsonNode $node): HardwareLoop
    {
        return count($loop->inputs()) === count($loop->outputs()) ? $loop : throw $node->expected("as many ports in \"return\" as in \"send\" (\"{$loop->send}\")");
    }

    private static function inRow(JsonNode $node): AddHardware
    {
        $branch = $node->optional('branch');

        return new AddHardware($node->get('loop')->id(), new InsertPosition(
            $node->get('channel')->id(),
            Row::from($node->optional('row')?->oneOf(array_column(Row::cases(), 'value')) ?? 'inserts'),
            $node->optional('at')?->integer(0, Rows::MOST),
            $branch === null || $branch->value === null ? null : $branch->id(),
        ));
    }
}
