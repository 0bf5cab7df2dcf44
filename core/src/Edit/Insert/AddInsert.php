<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Session;

/**
 * Adds a processor to one row, to the same row of several channels, or to a branch. `at` counts from 0; null is the end.
 * What puts out only wet sound starts as a part of the mix, except on a return, where it is whole.
 */
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
        public ?string $branch = null,
        public string $presetName = '',
    ) {
    }

    public function apply(Session $session): Session
    {
        if ($this->channels === []) {
            throw NothingSelected::atAll();
        }
        $ids = FreshIds::of($session);
        foreach ($this->branch === null ? $this->channels : [$this->channels[0]] as $id) {
            $mix = UsualMix::of($this->processor, Channels::find($session, $id), $this->branch !== null);
            $insert = new ProcessorInsert($ids->insert(), $this->processor->id, true, $mix, $this->parameters, preset: $this->presetName);
            $session = Rows::put($session, new InsertPosition($id, $this->row, $this->at, $this->branch), [$insert]);
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return ($this->presetName === '' ? $this->processor->name : "{$this->processor->name} ({$this->presetName})").' on '.Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        return [...Channels::paths($this->channels, 'row'), ...($this->branch === null ? [] : ["branches/{$this->branch}/row"])];
    }
}
