<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Edit\Note\NoteClips;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorNotes;
use Hafen\Session\Session;

/** The notes that move the selector of a split; null is none. */
final readonly class SetSelectorNotes implements Edit
{
    public function __construct(public string $split, public ?SelectorNotes $notes)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->notes !== null) {
            NoteClips::source($session, $this->notes->channel);
        }

        return Selectors::change($session, $this->split, fn (Selector $selector): Selector => $selector->withNotes($this->notes));
    }

    public function label(Session $before): string
    {
        return 'Notes that move the selector of '.Selectors::named($before, $this->split);
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->split}/selector-notes", ...($this->notes === null ? [] : ["channels/{$this->notes->channel}/feeds/{$this->split}"])];
    }
}
