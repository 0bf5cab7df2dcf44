<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Session\Channel\Channel;

/**
 * The channels of the documents decoded last, by what they were decoded from: of two documents that differ in one channel, only that one is decoded
 * anew. Channels never change, so both sessions can hold the same.
 */
final class DecodedChannels
{
    /** @var array<string, Channel> of this document */
    private array $now = [];

    /** @var array<string, Channel> of the one before */
    private array $before = [];

    /** Another document is decoded. */
    public function begin(): void
    {
        $this->before = $this->now;
        $this->now = [];
    }

    /** @param  callable(JsonNode): Channel  $decode */
    public function of(JsonNode $node, callable $decode): Channel
    {
        // Unlike JSON it tells 1 from 1.0.
        $content = 'x'.serialize($node->value);

        return $this->now[$content] = $this->before[$content] ?? $decode($node);
    }
}
