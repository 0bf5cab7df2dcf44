<?php

declare(strict_types=1);

namespace App\Takes;

use Hafen\Document\JsonNode;
use Hafen\Engine\Tap;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;

/** What a listener wants recorded: the track it goes on, and the tap it comes from, or what is heard. */
final readonly class RecordWish
{
    public const HEARD = 'heard';

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
        if ($tap !== self::HEARD && ($parsed === null || $session->channel($parsed->channel) === null || ! in_array($parsed->stage, [Tap::SOURCE, Tap::PRE_FADER, Tap::POST_FADER], true))) {
            throw $node->get('tap')->expected('"heard", or a tap such as "cello:pre-fader"');
        }
        $channel = $session->channel($node->get('channel')->id());
        if ($channel === null || ! $channel->source instanceof ClipSource) {
            throw CannotRecord::noTrack($channel->name ?? (string) $node->get('channel')->id());
        }
        if ($channel->frozen !== null) {
            throw CannotRecord::frozen($channel->name);
        }

        return new self($channel->id, $tap);
    }

    /** @return array{channel: string, tap: string} */
    public function toArray(): array
    {
        return ['channel' => $this->channel, 'tap' => $this->tap];
    }
}
