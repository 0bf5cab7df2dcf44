<?php

declare(strict_types=1);

namespace App\Takes;

use Hafen\Document\JsonNode;
use Hafen\Engine\Tap;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;

/** What a listener wants recorded: the track it goes on, and the tap it comes from, what is heard, or what comes in at the track's input. */
final readonly class RecordWish
{
    public const HEARD = 'heard';

    /** The track's own input, as it leaves the converter. */
    public const INPUT = 'input';

    public function __construct(public string $channel, public string $tap)
    {
    }

    /**
     * @throws \Hafen\Document\InvalidDocument naming the field
     * @throws CannotRecord
     */
    public static function of(JsonNode $node, Session $session): self
    {
        $node->keys(['channel', 'tap']);
        $tap = $node->get('tap')->text(1, 140);
        $parsed = Tap::fromString($tap);
        if (! in_array($tap, [self::HEARD, self::INPUT], true) && ($parsed === null || $session->channel($parsed->channel) === null || ! in_array($parsed->stage, [Tap::SOURCE, Tap::PRE_FADER, Tap::POST_FADER], true))) {
            throw $node->get('tap')->expected('"heard", "input", or a tap such as "cello:pre-fader"');
        }
        $channel = $session->channel($node->get('channel')->id());
        if ($channel === null || ! $channel->source instanceof ClipSource) {
            throw CannotRecord::noTrack($channel->name ?? (string) $node->get('channel')->id());
        }
        if ($tap === self::INPUT && $channel->source->input === null) {
            throw CannotRecord::noInput($channel->name);
        }
        if ($channel->frozen !== null) {
            throw CannotRecord::frozen($channel->name);
        }

        return new self($channel->id, $tap);
    }

    /** The tap it comes from; null where it comes from none. */
    public function tap(): ?Tap
    {
        return in_array($this->tap, [self::HEARD, self::INPUT], true) ? null : Tap::fromString($this->tap);
    }

    /** @return array{channel: string, tap: string} */
    public function toArray(): array
    {
        return ['channel' => $this->channel, 'tap' => $this->tap];
    }
}
