<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\MacroCodec;
use Hafen\Edit\Edit;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Macro\AddMacro;
use Hafen\Edit\Macro\Macros;
use Hafen\Edit\Macro\RemoveMacro;
use Hafen\Edit\Macro\RemoveMacroMove;
use Hafen\Edit\Macro\RenameMacro;
use Hafen\Edit\Macro\SetMacroMove;
use Hafen\Edit\Macro\TurnMacro;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Session;

/** The edits of macros, from JSON; {@see EditCodec}. */
final class MacroEditCodec
{
    /**
     * @param  Session  $session  the edit is for: values are checked against what they are of
     * @return ?Edit null when the name is of none of these
     *
     * @throws InvalidDocument with the JSON pointer of the field
     * @throws EditRefused when it names a macro that is not there
     */
    public static function decode(string $name, JsonNode $node, Session $session, ProcessorCatalogue $processors, MacroCodec $macros): ?Edit
    {
        $macro = static fn (): string => $node->get('macro')->id();
        $fields = static fn (string ...$keys): JsonNode => $node->keys(['type', ...array_values($keys)]);
        $controls = new MacroControls($processors);

        return match ($name) {
            'add-macro' => new AddMacro($node->keys(['type', 'channel', 'name'], ['switch'])->get('channel')->id(), MacroCodec::name($node->get('name')), $node->optional('switch')?->boolean() ?? false),
            'remove-macro' => new RemoveMacro($fields('macro')->get('macro')->id()),
            'rename-macro' => new RenameMacro($fields('macro', 'name')->get('macro')->id(), MacroCodec::name($node->get('name'))),
            'turn-macro' => new TurnMacro($fields('macro', 'value')->get('macro')->id(), MacroCodec::value($node->get('value'), Macros::find($session, $macro())->macro), $controls),
            'set-macro-move' => new SetMacroMove(
                $node->keys(['type', 'macro', 'target', 'from', 'to'], ['curve'])->get('macro')->id(),
                $macros->move($node, Macros::find($session, $macro())->channel),
                $controls,
            ),
            'remove-macro-move' => new RemoveMacroMove($fields('macro', 'target')->get('macro')->id(), $macros->target($node->get('target'))),
            default => null,
        };
    }
}
