<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

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
        // What is wrong is refused with its field before anything is set.
        $changes = [];
        if ($node->has('name')) {
            $changes['name'] = $node->get('name')->text(1, 120);
        }
        if ($node->has('send')) {
            $changes['send'] = LoopCodec::ports($node->get('send'), 'hw');
        }
        if ($node->has('return')) {
            $changes['return'] = LoopCodec::ports($node->get('return'), 'in');
        }
        if ($node->has('unit')) {
            $changes['unit'] = $node->get('unit')->value === null ? null : $node->get('unit')->id();
        }
        if ($node->has('sendTrim')) {
            $changes['sendTrim'] = LoopCodec::trim($node->get('sendTrim'));
        }
        if ($node->has('returnTrim')) {
            $changes['returnTrim'] = LoopCodec::trim($node->get('returnTrim'));
        }
        if ($node->has('invert')) {
            $changes['invert'] = $node->get('invert')->boolean();
        }
        if ($node->has('tail')) {
            $changes['tail'] = LoopCodec::tail($node->get('tail'));
        }
        if ($node->has('delay')) {
            $changes['delay'] = $node->get('delay')->value === null ? null : LoopCodec::delay($node->get('delay'));
        }
        if ($node->has('recall')) {
            $changes['recall'] = $node->get('recall')->value === null ? null : LoopCodec::recall($node->get('recall'));
        }

        return new SetLoop($node->get('loop')->id(), implode(' and ', array_unique($fields)), static fn (HardwareLoop $loop): HardwareLoop => self::matching($loop->with($changes), $node));
    }

    /** @throws InvalidDocument when it comes back on more or fewer ports than it goes out on */
    private static function matching(HardwareLoop $loop, JsonNode $node): HardwareLoop
    {
        return count($loop->inputs()) === count($loop->outputs()) ? $loop : throw $node->expected("as many ports in \"return\" as in \"send\" (\"{$loop->send}\")");
    }

    private static function inRow(JsonNode $node): AddHardware
    {
        return new AddHardware($node->get('loop')->id(), new InsertPosition(
            $node->get('channel')->id(),
            EditCodec::row($node),
            $node->optional('at')?->integer(0, Rows::MOST),
            EditCodec::branch($node),
        ));
    }
}
