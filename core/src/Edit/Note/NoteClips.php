<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Refusals\NoSuchNoteClip;
use Hafen\Edit\Refusals\NotANoteChannel;
use Hafen\Edit\Refusals\TooManyNotes;
use Hafen\Note\NoteClip;
use Hafen\Note\Ticks;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\NoteSource;

/** Finds and changes clips of notes. */
final class NoteClips
{
    /** @return array{Channel, NoteSource} */
    public static function source(Session $session, string $channel): array
    {
        $found = Channels::find($session, $channel);

        return $found->source instanceof NoteSource ? [$found, $found->source] : throw NotANoteChannel::named($found->name);
    }

    /** @param  callable(NoteClip): NoteClip  $change */
    public static function change(Session $session, string $channel, string $clip, callable $change): Session
    {
        [$found, $source] = self::source($session, $channel);

        return self::grown($session->withChannel($found->withSource($source->withClip($change($source->clip($clip) ?? throw NoSuchNoteClip::withId($clip))))), $channel);
    }

    /**
     * The session, long enough for the notes of a channel.
     *
     * @throws TooManyNotes where a document could not hold them
     */
    public static function grown(Session $session, string $channel): Session
    {
        [$found, $source] = self::source($session, $channel);
        if (count($source->notes) > NoteSource::MOST_CLIPS) {
            throw TooManyNotes::clipsOn($found->name, NoteSource::MOST_CLIPS);
        }
        foreach ($source->notes as $clip) {
            match (true) {
                count($clip->notes) > NoteClip::MOST_NOTES => throw TooManyNotes::in($found->name, NoteClip::MOST_NOTES),
                count($clip->controls) > NoteClip::MOST_CONTROLS => throw TooManyNotes::movements($found->name, NoteClip::MOST_CONTROLS),
                default => null,
            };
        }

        return $session->withLength(max($session->length, (new Ticks($session->tempo, $session->sampleRate))->sample($source->end())));
    }
}
