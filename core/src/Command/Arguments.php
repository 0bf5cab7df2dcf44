<?php

declare(strict_types=1);

namespace Hafen\Command;

/** Words of a command line: positions, `--name value` and `--flag`. */
final readonly class Arguments
{
    /**
     * @param  list<string>  $positions
     * @param  array<string, string>  $options
     */
    private function __construct(private array $positions, private array $options)
    {
    }

    /**
     * @param  list<string>  $words
     * @param  list<string>  $positions  names, all required
     * @param  list<string>  $valued  options that take a value
     * @param  list<string>  $flags
     */
    public static function parse(array $words, array $positions, array $valued = [], array $flags = []): self
    {
        $found = $options = [];
        for ($i = 0, $n = count($words); $i < $n; ++$i) {
            $word = $words[$i];
            if (! str_starts_with($word, '--')) {
                $found[] = $word;

                continue;
            }
            [$name, $value] = [...explode('=', substr($word, 2), 2), null];
            if (in_array($name, $flags, true) && $value === null) {
                $options[$name] = '';
            } elseif (in_array($name, $valued, true)) {
                $value ??= $words[++$i] ?? throw new WrongUsage("--{$name} needs a value.");
                $options[$name] = $value;
            } else {
                throw new WrongUsage("Unknown option \"{$word}\".");
            }
        }
        if (count($found) !== count($positions)) {
            throw new WrongUsage('Expected: '.implode(' ', $positions).'.');
        }

        return new self($found, $options);
    }

    public function position(int $index): string
    {
        return $this->positions[$index];
    }

    public function has(string $name): bool
    {
        return isset($this->options[$name]);
    }

    public function text(string $name): ?string
    {
        return $this->options[$name] ?? null;
    }

    /** @return ?non-empty-list<string> of words with commas between */
    public function list(string $name): ?array
    {
        $value = $this->text($name);
        $words = array_values(array_filter(explode(',', $value ?? ''), static fn (string $word): bool => $word !== ''));

        return match (true) {
            $value === null => null,
            $words === [] => throw new WrongUsage("--{$name} takes one or several, with commas between."),
            default => $words,
        };
    }

    public function integer(string $name): ?int
    {
        $value = $this->text($name);
        if ($value !== null && preg_match('/^\d{1,15}$/D', $value) !== 1) {
            throw new WrongUsage("--{$name} takes a whole number of samples, not \"{$value}\".");
        }

        return $value === null ? null : (int) $value;
    }

    /** Seconds of tail; null where it is left out or "auto": as long as it is heard. */
    public function tail(): ?float
    {
        return $this->text('tail') === 'auto' ? null : $this->seconds('tail');
    }

    public function seconds(string $name): ?float
    {
        $value = $this->text($name);
        if ($value !== null && (! is_numeric($value) || (float) $value < 0 || (float) $value > 86400)) {
            throw new WrongUsage("--{$name} takes seconds from 0 to 86400, not \"{$value}\".");
        }

        return $value === null ? null : (float) $value;
    }
}
