<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Row;
use Hafen\Session\Session;

/** Copies inserts, with everything set on them, to a place in one row or to the end of several channels' rows. */
final readonly class CopyInserts implements Edit
{
    /**
     * @param  list<string>  $inserts
     * @param  list<string>  $channels
     */
    public function __construct(
        public array $inserts,
        public array $channels,
        public Row $row = Row::Inserts,
        public ?int $at = null,
    ) {
    }

    public function apply(Session $session): Session
    {
        if ($this->inserts === [] || $this->channels === []) {
            throw EditRefused::nothingSelected();
        }
        $copied = array_map(static fn (string $id) => Channels::insert($session, $id)->insert, $this->inserts);
        foreach ($this->channels as $id) {
            $at = $this->at;
            foreach ($copied as $insert) {
                $copy = $insert->withId($session->freeInsertId());
                $session = $session->withChannel(Rows::put(Channels::find($session, $id), $this->row, $copy, $at));
                $at = $at === null ? null : $at + 1;
            }
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return 'Copy '.(count($this->inserts) === 1 ? 'insert' : count($this->inserts).' inserts').' to '.Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        return [
            ...array_map(static fn (string $id): string => "inserts/{$id}", $this->inserts),
            ...Channels::paths($this->channels, 'row'),
        ];
    }
}
