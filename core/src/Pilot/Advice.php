<?php

declare(strict_types=1);

namespace Hafen\Pilot;

/** A finding of the Pilot: where, why it matters in one sentence, and a fix if there is one. */
final readonly class Advice
{
    /**
     * @param  string  $check  what found it, "return-not-wet"
     * @param  string  $channel  id
     * @param  ?string  $part  id of the insert, split or send it is about; null is the channel
     */
    public function __construct(
        public string $check,
        public Severity $severity,
        public string $channel,
        public ?string $part,
        public string $text,
        public ?Fix $fix = null,
    ) {
    }

    /** The same as long as it is about the same thing: by it dismissed advice is known again. */
    public function id(): string
    {
        return "{$this->check}:{$this->channel}".($this->part === null ? '' : ":{$this->part}");
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'id' => $this->id(),
            'check' => $this->check,
            'severity' => $this->severity->value,
            'channel' => $this->channel,
            'part' => $this->part,
            'text' => $this->text,
            'fix' => $this->fix === null ? null : ['label' => $this->fix->label, 'edit' => $this->fix->edit->fields],
        ];
    }
}
