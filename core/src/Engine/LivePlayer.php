<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Hardware\AudioInterface;
use Hafen\Session\Channel\InterfacePorts;

/** Reads what came in at an input of the audio interface, or at a pair, in the block that was captured last. */
final class LivePlayer
{
    /** @var list<int> numbers of the ports */
    private readonly array $ports;

    private bool $isClosed = false;

    /** @param  ?AudioInterface  $interface  null where there is none: silence */
    public function __construct(private readonly ?AudioInterface $interface, public readonly string $port)
    {
        $this->ports = InterfacePorts::numbers($port, 'in');
    }

    /** Is silent from now on, or no longer: nothing comes in while filters and tails are run in. */
    public function close(bool $isClosed): void
    {
        $this->isClosed = $isClosed;
    }

    /** Whether there is an audio interface. */
    public function isConnected(): bool
    {
        return $this->interface !== null;
    }

    public function read(int $frames): Block
    {
        $sides = $this->interface === null || $this->isClosed ? [] : array_map($this->interface->input(...), $this->ports);
        if ($sides === [] || count($sides[0]) !== $frames) {
            return Block::silent($frames);
        }

        return isset($sides[1]) ? new Block($sides[0], $sides[1]) : Block::mono($sides[0]);
    }
}
