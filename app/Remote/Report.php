<?php

declare(strict_types=1);

namespace App\Remote;

use InvalidArgumentException;

/** What a worker says of a task it has by an order. */
final readonly class Report
{
    /**
     * @param  array<string, mixed>  $columns  of the task that changed, as they are stored
     * @param  list<array<string, mixed>>  $media  rows of files that were made
     * @param  list<string>  $files  that were made, by their place below the data folder
     */
    public function __construct(
        public ReportKind $kind,
        public string $word,
        public string $task,
        public string $key,
        public array $columns = [],
        public array $media = [],
        public array $files = [],
        public string $message = '',
    ) {
    }

    public function packed(): string
    {
        return serialize([$this->kind->value, $this->word, $this->task, $this->key, $this->columns, $this->media, $this->files, $this->message]);
    }

    /** @throws InvalidArgumentException when it is no report */
    public static function unpacked(string $packed): self
    {
        $parts = @unserialize($packed, ['allowed_classes' => false]);
        if (! is_array($parts) || array_map(gettype(...), $parts) !== ['string', 'string', 'string', 'string', 'array', 'array', 'array', 'string'] || ! is_string($parts[0]) || ReportKind::tryFrom($parts[0]) === null) {
            throw new InvalidArgumentException('A report came damaged.');
        }
        /** @var array{string, string, string, string, array<string, mixed>, list<array<string, mixed>>, list<string>, string} $parts */
        [$kind, $word, $task, $key, $columns, $media, $files, $message] = $parts;

        return new self(ReportKind::from($kind), $word, $task, $key, $columns, $media, $files, $message);
    }
}
