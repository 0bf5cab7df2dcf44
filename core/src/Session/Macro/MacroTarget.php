<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

/**
 * A control a macro moves: a parameter of an insert ("parameter:ID:NAME"), its dry/wet ("mix:ID"), whether it is on ("on:ID"), the amount
 * of a send ("send:ID"), the level of a branch ("branch:ID"), or the selector of a split ("selector:ID").
 */
final readonly class MacroTarget
{
    private function __construct(public MacroTargetKind $kind, public string $part, public ?string $parameter = null)
    {
    }

    /** Null where it is none. */
    public static function fromString(string $text): ?self
    {
        if (preg_match('/^((?:mix|on|send|branch|selector):[A-Za-z0-9_-]{1,64}|parameter:[A-Za-z0-9_-]{1,64}:[a-z0-9-]{1,64})$/D', $text) !== 1) {
            return null;
        }
        $parts = explode(':', $text);

        return new self(MacroTargetKind::from($parts[0]), $parts[1] ?? '', $parts[2] ?? null);
    }

    /** The same control of another insert, send or branch. */
    public function of(string $part): self
    {
        return new self($this->kind, $part, $this->parameter);
    }

    public function text(): string
    {
        return "{$this->kind->value}:{$this->part}".($this->parameter === null ? '' : ":{$this->parameter}");
    }
}
