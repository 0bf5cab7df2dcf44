<?php

declare(strict_types=1);

namespace App\Listening;

use App\Takes\RecordWish;
use Hafen\Headroom\BandListen;
use Hafen\Headroom\Sweep;
use Hafen\Note\HeldKeys;

/** What a listener wants just now, and the session's change it should be heard in. */
final readonly class ListeningOptions
{
    /**
     * @param  ?array{insert?: string, parameters?: array<string, mixed>, row?: string, plan?: int}  $compare
     * @param  ?string  $watch  insert whose sound by frequency is shown
     * @param  ?list<string>  $metered  channels whose levels somebody looks at; null is all of them
     * @param  list<RecordWish>  $record  what is recorded
     * @param  list<string>  $armed  tracks whose input is to be recorded
     * @param  bool  $standing  nothing plays, only live inputs are heard
     * @param  bool  $interface  the audio interface is open even where no track takes an input
     * @param  ?float  $quick  live inputs are heard without inserts that make them later than so many milliseconds
     * @param  int  $setting  number of the interface's setting
     * @param  ?array{from: int, to: ?int}  $punch  what of it is recorded, in samples of the session; all of it where it is left out
     * @param  bool  $click  a click on each beat, for the ears only
     * @param  bool  $beside  the tap is heard on the right ear, and the main on the left one
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
        public array $record = [],
        public ?array $metered = null,
        public array $armed = [],
        public bool $standing = false,
        public bool $interface = false,
        public ?float $quick = null,
        public int $setting = 0,
        public ?array $punch = null,
        public bool $beside = false,
        public ?HeldKeys $played = null,
        public bool $click = false,
    ) {
    }
}
