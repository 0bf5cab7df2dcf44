<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Processor\ProcessorSpec;
use Hafen\Session\ProcessorInsert;
use Hafen\Session\Row;
use Hafen\Session\Session;

/** Adds a processor to one row or to the same row of several channels. `at` counts from 0; null is the end. */
final readonly class AddInsert implements Edit
{
    /**
     * @param  list<string>  $channels
     * @param  array<string, float|string|bool>  $parameters  what differs from the defaults
     */
    public function __construct(
        public array $channels,
        public ProcessorSpec $processor,
        public Row $row = Row::Inserts,
        public ?int $at = null,
        public array $parameters = [],
    ) {
    }

    public function apply(Session $session): Session
    {
        if ($this->channels === []) {
            throw EditRefused::nothingSelected();
        }
        foreach ($this->channels as $id) {
            $channel = Channels::find($session, $id);
            $insert = new ProcessorInsert($session->freeInsertId(), $this->processor->id, true, $this->processor->mixOnTrack(), $this->parameters);
            $session = $session->withChannel(Rows::put($channel, $this->row, $insert, $this->at));
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return "{$this->processor->name} on ".Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'row');
    }
}
