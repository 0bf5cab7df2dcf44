<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\NoteCodec;
use Hafen\Edit\Edit;
use Hafen\Edit\Note\AddNotes;
use Hafen\Edit\Note\MoveNoteClip;
use Hafen\Edit\Note\PutNoteClip;
use Hafen\Edit\Note\QuantiseNotes;
use Hafen\Edit\Note\RemoveNoteClip;
use Hafen\Edit\Note\SetNoteControls;
use Hafen\Edit\Note\SetNotes;
use Hafen\Edit\Note\TransposeNotes;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteControl;
use Hafen\Note\Ticks;

/** The edits of notes, from JSON; {@see EditCodec}. */
final class NoteEditCodec
{
    /**
     * @return ?Edit null when the name is of none of these
     *
     * @throws InvalidDocument with the JSON pointer of the field
     */
    public static function decode(string $name, JsonNode $node): ?Edit
    {
        $fields = static fn (string ...$keys): JsonNode => $node->keys(['type', 'channel', 'clip', ...array_values($keys)]);
        $clip = static fn (): string => $node->get('clip')->id();

        return match ($name) {
            'put-note-clip' => new PutNoteClip($fields()->get('channel')->id(), NoteCodec::clip($node->get('clip'))),
            'remove-note-clip' => new RemoveNoteClip($fields()->get('channel')->id(), $clip()),
            'move-note-clip' => self::move($fields('start', 'length')),
            'set-notes' => new SetNotes($fields('notes')->get('channel')->id(), $clip(), NoteCodec::notes($node->get('notes'))),
            'set-note-controls' => self::controls($fields('controller', 'controls')),
            'add-notes' => self::added($node->keys(['type', 'channel'], ['notes', 'controls'])),
            'quantise-notes' => new QuantiseNotes($node->keys(['type', 'channel', 'clip', 'grid'], ['notes', 'strength'])->get('channel')->id(), $clip(), self::places($node), $node->get('grid')->integer(1, 16 * Ticks::PER_BEAT), $node->optional('strength')?->number(0.0, 1.0) ?? 1.0),
            'transpose-notes' => new TransposeNotes($node->keys(['type', 'channel', 'clip', 'by'], ['notes'])->get('channel')->id(), $clip(), self::places($node), $node->get('by')->integer(-127, 127)),
            default => null,
        };
    }

    private static function controls(JsonNode $node): SetNoteControls
    {
        $controller = $node->get('controller')->integer(0, NoteControl::BEND);

        return new SetNoteControls($node->get('channel')->id(), $node->get('clip')->id(), $controller, NoteCodec::controlsOf($controller, $node->get('controls')));
    }

    private static function added(JsonNode $node): AddNotes
    {
        return new AddNotes(
            $node->get('channel')->id(),
            $node->has('notes') ? NoteCodec::notes($node->get('notes')) : [],
            array_map(NoteCodec::control(...), $node->optional('controls')?->items(NoteClip::MOST_CONTROLS) ?? []),
        );
    }

    private static function move(JsonNode $node): MoveNoteClip
    {
        $start = NoteCodec::start($node->get('start'));

        return new MoveNoteClip($node->get('channel')->id(), $node->get('clip')->id(), $start, $node->get('length')->integer(1, Ticks::LAST - $start));
    }

    /** @return ?list<int> */
    private static function places(JsonNode $node): ?array
    {
        $places = $node->optional('notes');

        return $places === null || $places->value === null ? null : array_map(static fn (JsonNode $place): int => $place->integer(0, NoteClip::MOST_NOTES), $places->items(NoteClip::MOST_NOTES));
    }
}
