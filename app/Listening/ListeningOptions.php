<?php

declare(strict_types=1);

namespace App\Listening;

use App\Takes\RecordWish;
use Hafen\Headroom\BandListen;
use Hafen\Headroom\Sweep;

/** What a listener wants just now, and the session's change it should be heard in. */
final readonly class ListeningOptions
{
    /**
     * @param  ?array{insert?: string, parameters?: array<string, mixed>, row?: string, plan?: int}  $compare
     * @param  ?string  $watch  insert whose sound by frequency is shown
     * @param  ?list<string>  $metered  channels whose levels somebody looks at; null is all of them
     */
    public function __construct(
        public int $change,
        public ?string $tap,
        public ?int $loopStart,
        public ?int $loopEnd,
        public ?array $compare,
        public int $side,
        public bool $stopped,
        public Sweep|BandListen|null $sweep = null,
        public ?string $watch = null,
        public ?RecordWish $record = null,
        public ?array $metered = null,
    ) {
    }
}
