<?php

declare(strict_types=1);

namespace App\Remote;

use App\Work\Task;
use Illuminate\Database\Eloquent\Model;
use InvalidArgumentException;

/** A task for a worker that has another database: all rows it needs come along. */
final readonly class Order
{
    /**
     * @param  string  $word  the claim of whoever does it
     * @param  class-string<Model&Task>  $task
     * @param  array<string, list<array<string, mixed>>>  $rows  by table, the columns as they are stored
     * @param  string  $filesWord  see {@see SharedFiles::word()}
     * @param  list<string>  $files  it needs, by their place below the data folder
     */
    public function __construct(public string $word, public string $task, public string $key, public array $rows, public string $filesWord, public array $files)
    {
    }

    /** As text that can stand in JSON: rows hold compressed documents. */
    public function packed(): string
    {
        return base64_encode((string) gzdeflate(serialize([$this->word, $this->task, $this->key, $this->rows, $this->filesWord, $this->files])));
    }

    public static function unpacked(string $packed): self
    {
        $bytes = @gzinflate((string) base64_decode($packed, true));
        $parts = $bytes === false ? null : @unserialize($bytes, ['allowed_classes' => false]);
        if (! is_array($parts) || ! is_string($parts[0] ?? null) || ! is_string($parts[1] ?? null) || ! is_string($parts[2] ?? null) || ! is_array($parts[3] ?? null) || ! is_string($parts[4] ?? null) || ! is_array($parts[5] ?? null)) {
            throw new InvalidArgumentException('An order came damaged.');
        }
        [$word, $task, $key, $rows, $filesWord, $files] = $parts;
        if (! is_subclass_of($task, Model::class) || ! is_subclass_of($task, Task::class)) {
            throw new InvalidArgumentException("An order came for {$task}, which is no task.");
        }

        /** @var array<string, list<array<string, mixed>>> $rows */
        /** @var list<string> $files */
        return new self($word, $task, $key, $rows, $filesWord, $files);
    }
}
