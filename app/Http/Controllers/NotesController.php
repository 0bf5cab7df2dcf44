<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Document\NoteCodec;
use Hafen\Edit\Note\NoteClips;
use Hafen\Note\MidiPart;
use Hafen\Note\MidiReader;
use Hafen\Note\MidiWriter;
use Hafen\Note\UnreadableMidiFile;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Standard MIDI files in and out. */
final class NotesController
{
    /** What a file holds: its parts as clips for note channels. */
    public function read(Request $request): JsonResponse
    {
        $announced = (int) $request->headers->get('Content-Length', '0');
        if ($announced > MidiReader::MOST_BYTES) {
            // Not read at all.
            throw UnreadableMidiFile::tooLarge($announced, MidiReader::MOST_BYTES);
        }
        $song = MidiReader::read((string) $request->getContent());

        return new JsonResponse([
            'tempo' => $song->tempo,
            'changesTempo' => $song->changesTempo,
            'parts' => array_map(static fn (MidiPart $part): array => ['name' => $part->name, 'clip' => NoteCodec::clipToArray($part->clip('c1'))], $song->parts),
        ]);
    }

    /** The notes of a channel as a file. */
    public function write(StoredSession $session, string $channel, SessionBook $book): Response
    {
        $document = $book->open($session);
        [$found, $source] = NoteClips::source($document, $channel);
        $name = trim((string) preg_replace('/[^A-Za-z0-9 _-]+/', '', $found->name)) ?: 'Notes';

        return new Response(MidiWriter::write([[$found->name, $source->notes]], $document->tempo), 200, [
            'Content-Type' => 'audio/midi',
            'Content-Disposition' => "attachment; filename=\"{$name}.mid\"",
        ]);
    }
}
