<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Note\NoteEvent;

/** A processor that makes other notes of those that come to it, and lets sound pass. */
interface ChangesNotes extends Positioned, Settles
{
    /**
     * What comes of a block does not depend on how notes are cut into blocks.
     *
     * @param  list<NoteEvent>  $events  of a block, counted from its start, in their order
     * @return list<NoteEvent> in their order
     */
    public function changed(array $events, int $frames): array;
}
