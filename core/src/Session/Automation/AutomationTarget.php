<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

/**
 * The target of a lane: "fader", "pan", "mute", the amount of a send ("send:ID"), the dry/wet of an insert ("mix:ID"), whether it is on
 * ("on:ID"), one of its parameters ("parameter:ID:NAME"), the level of a branch ("branch:ID"), the selector of a split ("selector:ID"), a
 * macro ("macro:ID"), or a sound switch ("sound:ID").
 */
final readonly class AutomationTarget
{
    private function __construct(public AutomationKind $kind, public ?string $part = null, public ?string $parameter = null)
    {
    }

    /** Null where it is none. */
    public static function fromString(string $text): ?self
    {
        if (preg_match('/^(fader|pan|mute|(?:send|mix|on|branch|selector|macro|sound):[A-Za-z0-9_-]{1,64}|parameter:[A-Za-z0-9_-]{1,64}:[a-z0-9-]{1,64})$/D', $text) !== 1) {
            return null;
        }
        $parts = explode(':', $text);

        return new self(AutomationKind::from($parts[0]), $parts[1] ?? null, $parts[2] ?? null);
    }

    public static function fader(): self
    {
        return new self(AutomationKind::Fader);
    }

    public static function mix(string $insert): self
    {
        return new self(AutomationKind::Mix, $insert);
    }

    public function text(): string
    {
        return implode(':', array_filter([$this->kind->value, $this->part, $this->parameter], static fn (?string $part): bool => $part !== null));
    }

    /** Whether it is about an insert, or what stands in one. */
    public function isOfInsert(): bool
    {
        return match ($this->kind) {
            AutomationKind::Mix, AutomationKind::Parameter, AutomationKind::On, AutomationKind::Branch, AutomationKind::Selector => true,
            default => false,
        };
    }
}
