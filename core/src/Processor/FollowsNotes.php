<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Note\NoteEvent;

/** An effect on sound that the notes of a note channel steer, while the sound goes through. */
interface FollowsNotes extends Settles
{
    /** @param  list<NoteEvent>  $events  of the next block, counted from its start, in their order */
    public function follow(array $events): void;
}
