<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Edit\Channel\AddChannel;
use Hafen\Edit\Note\PutNoteClip;
use Hafen\Note\MidiReader;
use Hafen\Note\MidiWriter;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Source\NoteSource;

/** Writes the notes of a channel as a standard MIDI file, or puts those of such a file on new note channels. */
final readonly class NotesCommand implements Command
{
    public function name(): string
    {
        return 'notes';
    }

    public function usage(): string
    {
        return 'notes SESSION.json --channel ID --out FILE.mid, or notes FILE.mid --into SESSION.json';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json or FILE.mid'], ['channel', 'out', 'into']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $into = $arguments->text('into');
        if ($into !== null) {
            return self::import($arguments->position(0), $into, $terminal);
        }
        $session = $terminal->open($arguments->position(0));
        $id = $arguments->text('channel') ?? throw new WrongUsage('notes needs --channel ID and --out FILE.mid, or --into SESSION.json.');
        $out = $arguments->text('out') ?? throw new WrongUsage('notes needs --out FILE.mid.');
        $channel = $session->channel($id) ?? throw NoSuchChannel::named($id, $session);
        $clips = $channel->source instanceof NoteSource ? $channel->source->notes : throw new WrongUsage("{$channel->name} is no note channel.");
        if (! is_dir(dirname($out)) || @file_put_contents($out, MidiWriter::write([[$channel->name, $clips]], $session->tempo)) === false) {
            throw CannotWrite::session($out);
        }
        $terminal->say("Notes of {$channel->name} are in {$out}.");

        return 0;
    }

    private static function import(string $path, string $into, Terminal $terminal): int
    {
        $session = $terminal->open($into);
        $bytes = is_file($path) && is_readable($path) ? file_get_contents($path, length: MidiReader::MOST_BYTES + 1) : false;
        if ($bytes === false) {
            throw new WrongUsage("\"{$path}\" cannot be read.");
        }
        $song = MidiReader::read($bytes);
        foreach ($song->parts as $part) {
            $id = $session->freeChannelId($part->name);
            $session = (new AddChannel($part->name, kind: ChannelKind::Note))->apply($session);
            $session = (new PutNoteClip($id, $part->clip('c1')))->apply($session);
            $terminal->say("{$part->name}: ".count($part->notes).' notes.');
        }
        if ($song->tempo !== null && ($song->changesTempo || abs($song->tempo - $session->tempo) > 0.01)) {
            $terminal->say("The file plays at {$song->tempo} BPM".($song->changesTempo ? ' at first, and changes' : '').'; the notes follow the session, which has '.$session->tempo.'.');
        }
        (new SessionFile($terminal))->write($session, $into);

        return 0;
    }
}
