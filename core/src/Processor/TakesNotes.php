<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Note\NoteEvent;

/** A processor that is played: an instrument. What it is played with ends in it. */
interface TakesNotes extends Settles
{
    /** @param  list<NoteEvent>  $events  of the next block, counted from its start, in their order */
    public function notes(array $events): void;
}
