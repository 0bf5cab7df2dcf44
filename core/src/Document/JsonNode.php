<?php

declare(strict_types=1);

namespace Hafen\Document;

use JsonException;
use stdClass;

/**
 * A place in a JSON document, read with its type and range checked. Every refusal names the place as a JSON pointer
 * (RFC 6901), the value found and what is allowed.
 */
final readonly class JsonNode
{
    public function __construct(public mixed $value, public string $pointer = '')
    {
    }

    /** @throws InvalidDocument when the text is too long or not JSON */
    public static function parse(string $json, int $mostBytes): self
    {
        if (strlen($json) > $mostBytes) {
            throw InvalidDocument::tooLarge(strlen($json), $mostBytes);
        }
        try {
            return new self(json_decode($json, false, 64, JSON_THROW_ON_ERROR));
        } catch (JsonException $exception) {
            throw InvalidDocument::notJson($exception->getMessage());
        }
    }

    /**
     * Checks that this is an object with these keys and no others.
     *
     * @param  list<string>  $required
     * @param  list<string>  $optional
     */
    public function keys(array $required, array $optional = []): self
    {
        $object = $this->object();
        foreach ($required as $key) {
            if (! property_exists($object, $key)) {
                throw InvalidDocument::at($this->pointer, "\"{$key}\" is missing");
            }
        }
        foreach (array_keys(get_object_vars($object)) as $key) {
            if (! in_array((string) $key, [...$required, ...$optional], true)) {
                throw InvalidDocument::at($this->child((string) $key)->pointer, 'Unknown key; allowed here: '.implode(', ', [...$required, ...$optional]));
            }
        }

        return $this;
    }

    /**
     * The same object with keys called by their present names, for documents that hold names of earlier versions.
     *
     * @param  array<string, string>  $names  present names by former ones
     */
    public function renamed(array $names): self
    {
        $object = $this->object();
        $entries = [];
        foreach (get_object_vars($object) as $key => $value) {
            $name = $names[$key] ?? (string) $key;
            $entries[property_exists($object, $name) ? (string) $key : $name] = $value;
        }

        return new self((object) $entries, $this->pointer);
    }

    /** The same object with one value put in its place. */
    public function with(string $key, mixed $value): self
    {
        return new self((object) [...get_object_vars($this->object()), $key => $value], $this->pointer);
    }

    public function has(string $key): bool
    {
        return property_exists($this->object(), $key);
    }

    public function get(string $key): self
    {
        return $this->has($key) ? $this->child($key) : throw InvalidDocument::at($this->pointer, "\"{$key}\" is missing");
    }

    /** The child, or null when it is not there. */
    public function optional(string $key): ?self
    {
        return $this->has($key) ? $this->child($key) : null;
    }

    /** @return list<string> */
    public function ids(int $most = 10_000): array
    {
        return array_map(static fn (self $id): string => $id->id(), $this->items($most));
    }

    /** @return list<self> */
    public function items(int $most = 10_000): array
    {
        if (! is_array($this->value)) {
            throw $this->expected('a list');
        }
        if (count($this->value) > $most) {
            throw InvalidDocument::at($this->pointer, count($this->value)." entries; at most {$most} are allowed");
        }
        $items = [];
        foreach (array_values($this->value) as $index => $value) {
            $items[] = new self($value, "{$this->pointer}/{$index}");
        }

        return $items;
    }

    /** @return array<string, self> */
    public function entries(): array
    {
        $entries = [];
        foreach (array_keys(get_object_vars($this->object())) as $key) {
            $entries[(string) $key] = $this->child((string) $key);
        }

        return $entries;
    }

    public function text(int $least = 0, int $most = 1000): string
    {
        if (! is_string($this->value)) {
            throw $this->expected('a text');
        }
        $length = mb_strlen($this->value);
        if ($length < $least || $length > $most) {
            throw $this->expected("a text of {$least} to {$most} characters");
        }
        if (preg_match('/[\x00-\x1F\x7F]/', $this->value) === 1) {
            throw $this->expected('a text without control characters');
        }

        return $this->value;
    }

    /** Letters, digits, "-" and "_", 1 to 64 of them. */
    public function id(): string
    {
        if (! is_string($this->value) || preg_match('/^[A-Za-z0-9_-]{1,64}$/D', $this->value) !== 1) {
            throw $this->expected('an id of 1 to 64 letters, digits, "-" or "_"');
        }

        return $this->value;
    }

    public function number(float $min, float $max, string $unit = ''): float
    {
        if ((! is_int($this->value) && ! is_float($this->value)) || $this->value < $min || $this->value > $max) {
            throw $this->expected('a number from '.$this->plain($min).' to '.$this->plain($max).($unit === '' ? '' : " {$unit}"));
        }

        return (float) $this->value;
    }

    /** A gain in dB; null is silence. */
    public function gain(float $min = -120.0, float $max = 24.0): ?float
    {
        if ($this->value === null) {
            return null;
        }
        if ((! is_int($this->value) && ! is_float($this->value)) || $this->value < $min || $this->value > $max) {
            throw $this->expected('a gain from '.$this->plain($min).' to '.$this->plain($max).' dB, or null for silence');
        }

        return (float) $this->value;
    }

    public function integer(int $min, int $max): int
    {
        $value = $this->value;
        if (is_float($value) && floor($value) === $value && abs($value) < 9e15) {
            $value = (int) $value;
        }
        if (! is_int($value) || $value < $min || $value > $max) {
            throw $this->expected("a whole number from {$min} to {$max}");
        }

        return $value;
    }

    public function boolean(): bool
    {
        return is_bool($this->value) ? $this->value : throw $this->expected('true or false');
    }

    /** @param  list<string>  $allowed */
    public function oneOf(array $allowed): string
    {
        return is_string($this->value) && in_array($this->value, $allowed, true)
            ? $this->value
            : throw $this->expected('one of '.implode(', ', array_map(static fn (string $choice): string => "\"{$choice}\"", $allowed)));
    }

    public function expected(string $what): InvalidDocument
    {
        return InvalidDocument::at($this->pointer, "Found {$this->shown()}; allowed is {$what}");
    }

    private function object(): stdClass
    {
        return $this->value instanceof stdClass ? $this->value : throw $this->expected('an object');
    }

    private function child(string $key): self
    {
        $escaped = str_replace(['~', '/'], ['~0', '~1'], $key);

        return new self($this->object()->{$key} ?? null, "{$this->pointer}/{$escaped}");
    }

    /** The value as a short text for a message. */
    public function shown(): string
    {
        if (is_array($this->value)) {
            return 'a list';
        }
        if ($this->value instanceof stdClass) {
            return 'an object';
        }
        $json = (string) json_encode($this->value, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PARTIAL_OUTPUT_ON_ERROR);

        return mb_strlen($json) > 60 ? mb_substr($json, 0, 57).'..."' : $json;
    }

    private function plain(float $value): string
    {
        return rtrim(rtrim(number_format($value, 3, '.', ''), '0'), '.');
    }
}
