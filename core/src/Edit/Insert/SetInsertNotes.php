<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Edit;
use Hafen\Edit\Note\NoteClips;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** The note channel that steers an insert; null is none. */
final readonly class SetInsertNotes implements Edit
{
    public function __construct(public string $insert, public ?string $channel)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->channel !== null) {
            NoteClips::source($session, $this->channel);
        }

        return ProcessorInserts::change($session, $this->insert, fn (ProcessorInsert $insert): ProcessorInsert => $insert->withNotes($this->channel));
    }

    public function label(Session $before): string
    {
        return $this->channel === null ? 'Follows no notes' : 'Follows the notes of '.($before->channel($this->channel)->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}/notes", ...($this->channel === null ? [] : ["channels/{$this->channel}/feeds/{$this->insert}"])];
    }
}
