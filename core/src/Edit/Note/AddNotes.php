<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteControl;
use Hafen\Note\Ticks;
use Hafen\Session\Session;
use Hafen\Session\Source\NoteSource;

/**
 * Notes and movements of controllers where they lie in the session: each goes into the clip it begins in. Where there is none a new clip
 * begins with the bar; clips grow by whole bars where notes reach beyond them. A note that begins with one of the same key takes its place; of
 * a controller that is moved, what its clip has between the first and the last of the new movements gives way.
 */
final readonly class AddNotes implements Edit
{
    /** Bars of a new clip, where none begins before. */
    private const BARS = 4;

    /**
     * @param  list<Note>  $notes  counted from the start of the session
     * @param  list<NoteControl>  $controls  counted from the start of the session
     */
    public function __construct(public string $channel, public array $notes, public array $controls = [])
    {
    }

    public function apply(Session $session): Session
    {
        [$channel, $source] = NoteClips::source($session, $this->channel);
        $notes = $controls = [];
        foreach ($this->notes as $note) {
            [$source, $clip] = self::clipAt($source, $note->at);
            $notes[$clip->id][] = new Note($note->at - $clip->start, $note->length, $note->key, $note->velocity);
        }
        foreach ($this->controls as $control) {
            [$source, $clip] = self::clipAt($source, $control->at);
            $controls[$clip->id][] = new NoteControl($control->at - $clip->start, $control->controller, $control->value);
        }
        foreach ($source->notes as $clip) {
            $source = $source->withClip(self::grown(self::moved(self::noted($clip, $notes[$clip->id] ?? []), $controls[$clip->id] ?? [])));
        }

        return NoteClips::grown($session->withChannel($channel->withSource($source)), $this->channel);
    }

    /** @return array{NoteSource, NoteClip} the clip a tick lies in, and the source with it */
    private static function clipAt(NoteSource $source, int $tick): array
    {
        $found = $source->clipAt($tick);
        if ($found !== null) {
            return [$source, $found];
        }
        $start = $tick - $tick % Ticks::PER_BAR;
        $end = min(Ticks::LAST, $start + self::BARS * Ticks::PER_BAR);
        foreach ($source->notes as $clip) {
            $start = $clip->end() <= $tick ? max($start, $clip->end()) : $start;
            $end = $clip->start > $tick ? min($end, $clip->start) : $end;
        }
        for ($number = count($source->notes) + 1; $source->clip("c{$number}") !== null; ++$number);
        $made = new NoteClip("c{$number}", $start, $end - $start);

        return [$source->withAdded($made), $made];
    }

    /** @param  list<Note>  $added */
    private static function noted(NoteClip $clip, array $added): NoteClip
    {
        $notes = [];
        foreach ([...$clip->notes, ...$added] as $note) {
            $notes["{$note->at} {$note->key}"] = $note;
        }

        return $added === [] ? $clip : $clip->withNotes(array_values($notes));
    }

    /** @param  list<NoteControl>  $added */
    private static function moved(NoteClip $clip, array $added): NoteClip
    {
        foreach (array_unique(array_column($added, 'controller')) as $controller) {
            $own = array_values(array_filter($added, static fn (NoteControl $control): bool => $control->controller === $controller));
            $times = array_column($own, 'at');
            $kept = array_values(array_filter(
                $clip->controls,
                static fn (NoteControl $control): bool => $control->controller === $controller && ($control->at < min([PHP_INT_MAX, ...$times]) || $control->at > max([0, ...$times])),
            ));
            $clip = $clip->withControls($controller, [...$kept, ...$own]);
        }

        return $clip;
    }

    /** Long enough for what it holds, by whole bars. */
    private static function grown(NoteClip $clip): NoteClip
    {
        $end = array_reduce($clip->notes, static fn (int $end, Note $note): int => $note->at < $clip->length ? max($end, $note->end()) : $end, $clip->length);

        return $end > $clip->length ? $clip->withLength(min(Ticks::LAST - $clip->start, (int) ceil($end / Ticks::PER_BAR) * Ticks::PER_BAR)) : $clip;
    }

    public function label(Session $before): string
    {
        return ($this->notes === [] ? 'Movements on ' : 'Notes on ').Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source", 'tempo'];
    }
}
