<?php

declare(strict_types=1);

namespace Hafen\Engine;

/**
 * A point of a path where a level is read or sound is taken: "source" (after the trim), after an insert
 * ("insert:ID"), where a split begins ("into:ID"), after the level of a branch ("branch:ID"), "pre-fader", "post-fader"
 * (after the inserts that follow the fader).
 */
final readonly class Tap
{
    public const SOURCE = 'source';

    public const PRE_FADER = 'pre-fader';

    public const POST_FADER = 'post-fader';

    public function __construct(public string $channel, public string $stage = self::POST_FADER)
    {
    }

    /** "CHANNEL:STAGE", or a channel alone for its output; null when it is neither. */
    public static function fromString(string $text): ?self
    {
        if (preg_match('/^([A-Za-z0-9_-]{1,64})(?::(source|pre-fader|post-fader|(?:insert|into|branch):[A-Za-z0-9_-]{1,64}))?$/D', $text, $parts) !== 1) {
            return null;
        }

        return new self($parts[1], $parts[2] ?? self::POST_FADER);
    }

    public static function afterInsert(string $channel, string $insert): self
    {
        return new self($channel, "insert:{$insert}");
    }

    /** Stage of what comes into an insert: it can be watched, not listened to or read. */
    public static function beforeStage(string $insert): string
    {
        return "before:{$insert}";
    }

    public function id(): string
    {
        return "{$this->channel}:{$this->stage}";
    }
}
