<?php

declare(strict_types=1);

namespace Hafen\Survey;

/** What can be measured by itself once the recordings it needs are there. */
final readonly class SurveyPart
{
    /**
     * @param  string  $hash  hash of all that makes its sound: the same key, the same figures
     * @param  list<array{string, string, string}>  $needs  recordings: channel id, key, stage
     * @param  list<string>  $records  stages others take from
     * @param  int  $weight  how much work it is, about
     * @param  float  $cost  what the inserts of the channel take, in per cent of a core
     */
    public function __construct(
        public string $channel,
        public Section $section,
        public string $hash,
        public array $needs,
        public array $records,
        public int $weight,
        public float $cost = 0.0,
    ) {
    }

    /** The same in every survey of the session. */
    public function id(): string
    {
        return "{$this->channel}:{$this->section->value}";
    }
}
