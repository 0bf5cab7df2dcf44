<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Row;
use Hafen\Session\Session;

/** Copies inserts, with everything set on them, to a place in one row, to a branch, or to the end of several channels' rows. */
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
        public ?string $branch = null,
    ) {
    }

    public function apply(Session $session): Session
    {
        if ($this->inserts === [] || $this->channels === []) {
            throw NothingSelected::atAll();
        }
        $copied = array_map(static fn (string $id) => Channels::insert($session, $id)->insert, $this->inserts);
        $ids = FreshIds::of($session);
        foreach ($this->branch === null ? $this->channels : [$this->channels[0]] as $id) {
            $position = new InsertPosition($id, $this->row, $this->at, $this->branch);
            $session = Rows::put($session, $position, array_map($ids->copyOf(...), $copied));
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
            ...($this->branch === null ? [] : ["branches/{$this->branch}/row"]),
        ];
    }
}
