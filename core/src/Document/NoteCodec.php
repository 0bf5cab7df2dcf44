<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteControl;
use Hafen\Note\Ticks;
use Hafen\Session\Source\NoteSource;

/** Clips of notes to and from the format. */
final class NoteCodec
{
    /**
     * @return list<NoteClip>
     *
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public static function clips(?JsonNode $node): array
    {
        $clips = array_map(self::clip(...), $node?->items(NoteSource::MOST_CLIPS) ?? []);
        if ($node !== null) {
            DocumentRules::unique(array_map(static fn (NoteClip $clip): string => $clip->id, $clips), $node->pointer);
        }

        return $clips;
    }

    /** @throws InvalidDocument with the JSON pointer of the place */
    public static function clip(JsonNode $node): NoteClip
    {
        $node->keys(['id', 'start', 'length'], ['notes', 'controls']);
        $start = self::start($node->get('start'));
        $clip = new NoteClip(
            $node->get('id')->id(),
            $start,
            $node->get('length')->integer(1, Ticks::LAST - $start),
            [],
            array_map(self::control(...), $node->optional('controls')?->items(NoteClip::MOST_CONTROLS) ?? []),
        );

        return $clip->withNotes($node->has('notes') ? self::notes($node->get('notes')) : []);
    }

    public static function start(JsonNode $node): int
    {
        return $node->integer(0, Ticks::LAST - 1);
    }

    /** @return list<Note> */
    public static function notes(JsonNode $node): array
    {
        return array_map(self::note(...), $node->items(NoteClip::MOST_NOTES));
    }

    /**
     * @param  int  $controller  the number all of them have
     * @return list<NoteControl>
     */
    public static function controlsOf(int $controller, JsonNode $node): array
    {
        return array_map(static function (JsonNode $pair) use ($controller): NoteControl {
            $parts = $pair->items(2);

            return count($parts) === 2 ? new NoteControl($parts[0]->integer(0, Ticks::LAST), $controller, self::value($controller, $parts[1])) : throw $pair->expected('a movement as [at, value]');
        }, $node->items(NoteClip::MOST_CONTROLS));
    }

    /** 0 to 127; of the pitch wheel -8192 to 8191. */
    public static function value(int $controller, JsonNode $node): int
    {
        return $controller === NoteControl::BEND ? $node->integer(-8192, 8191) : $node->integer(0, 127);
    }

    /** A note stands as [at, length, key, velocity]: documents hold thousands of them. */
    private static function note(JsonNode $node): Note
    {
        $parts = $node->items(4);
        if (count($parts) !== 4) {
            throw $node->expected('a note as [at, length, key, velocity]');
        }

        return new Note($parts[0]->integer(0, Ticks::LAST), $parts[1]->integer(1, Ticks::LAST), $parts[2]->integer(0, 127), $parts[3]->integer(1, 127));
    }

    /** A movement stands as [at, controller, value]. */
    public static function control(JsonNode $node): NoteControl
    {
        $parts = $node->items(3);
        if (count($parts) !== 3) {
            throw $node->expected('a movement of a controller as [at, controller, value]');
        }
        $controller = $parts[1]->integer(0, NoteControl::BEND);

        return new NoteControl($parts[0]->integer(0, Ticks::LAST), $controller, self::value($controller, $parts[2]));
    }

    /** @return array<string, mixed> */
    public static function clipToArray(NoteClip $clip): array
    {
        return [
            'id' => $clip->id,
            'start' => $clip->start,
            'length' => $clip->length,
            'notes' => self::notesToArray($clip->notes),
            ...($clip->controls === [] ? [] : ['controls' => array_map(static fn (NoteControl $control): array => [$control->at, $control->controller, $control->value], $clip->controls)]),
        ];
    }

    /**
     * @param  list<Note>  $notes
     * @return list<array{int, int, int, int}>
     */
    public static function notesToArray(array $notes): array
    {
        return array_map(static fn (Note $note): array => [$note->at, $note->length, $note->key, $note->velocity], $notes);
    }
}
