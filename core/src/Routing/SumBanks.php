<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/**
 * In which order a bus sums what feeds it: by banks of channels, four banks at a time, and then those sums.
 *
 * Addition of floating-point numbers depends on its order. As this order depends on the routing alone, and not on who works a channel, a
 * part of it may be summed by another process, and the bits are the same.
 */
final readonly class SumBanks
{
    public const COUNT = 16;

    /** Banks, or sums of banks, that are summed at a time. */
    public const AT_A_TIME = 4;

    /** Part of all channels that may lead to one group for it to keep them in one bank. */
    private const LARGEST_GROUP = 0.25;

    /** @param  array<array-key, int>  $banks  by channel id */
    private function __construct(private array $banks)
    {
    }

    public static function of(Session $session): self
    {
        $outputs = $sizes = [];
        foreach ($session->channels as $channel) {
            $outputs[$channel->id] = $channel->output;
            $sizes[$channel->id] = 0;
        }
        $banks = $ways = [];
        $main = $session->main()->id;
        foreach (array_keys($outputs) as $id) {
            $ways[$id] = self::way((string) $id, $outputs);
            foreach ($ways[$id] as $on) {
                ++$sizes[$on];
            }
        }
        $most = max(1.0, self::LARGEST_GROUP * count($session->channels));
        foreach ($session->channels as $channel) {
            // The widest group on its way that is not too large, so that a group is summed where its tracks are.
            $widest = $channel->id;
            foreach ($ways[$channel->id] as $on) {
                $widest = $on !== $main && $sizes[$on] <= $most ? $on : $widest;
            }
            $banks[$channel->id] = crc32($widest) % self::COUNT;
        }

        return new self($banks);
    }

    public function bank(string $channel): int
    {
        return $this->banks[$channel] ?? 0;
    }

    /**
     * @param  array<array-key, string>  $outputs  by channel id
     * @return list<string> a channel and those it leads to, one after another
     */
    private static function way(string $channel, array $outputs): array
    {
        $way = [];
        while (isset($outputs[$channel]) && ! in_array($channel, $way, true)) {
            $way[] = $channel;
            $channel = $outputs[$channel];
        }

        return $way;
    }
}
