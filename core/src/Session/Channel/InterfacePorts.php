<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

use Hafen\Session\Session;

/** Names of the ports of the audio interface: eight inputs, "in:1" or pairs "in:1-2", and eight outputs, in pairs "hw:1-2" to "hw:7-8". */
final class InterfacePorts
{
    public const INPUTS = 8;

    public const OUTPUTS = 8;

    /** @return list<string> */
    public static function pairs(): array
    {
        return array_map(static fn (int $first): string => "hw:{$first}-".($first + 1), range(1, self::OUTPUTS - 1, 2));
    }

    /** Whether a text has the form of a pair, on this interface or a larger one. */
    public static function isPair(string $text): bool
    {
        return preg_match('/^hw:[1-9]\d{0,2}(-[1-9]\d{0,2})?$/D', $text) === 1;
    }

    /** @return list<string> each input alone, then the pairs */
    public static function inputs(): array
    {
        return [
            ...array_map(static fn (int $port): string => "in:{$port}", range(1, self::INPUTS)),
            ...array_map(static fn (int $first): string => "in:{$first}-".($first + 1), range(1, self::INPUTS - 1, 2)),
        ];
    }

    /** Whether a text has the form of an input or a pair of two that follow each other, on this interface or a larger one. */
    public static function isInput(string $text): bool
    {
        return self::numbers($text, 'in') !== [];
    }

    /**
     * The numbers of a port's two sides, or of its one.
     *
     * @param  string  $text  "in:3", "in:3-4", "hw:1-2"
     * @param  'in'|'hw'  $way
     * @return list<int> none where it is not the name of such a port
     */
    public static function numbers(string $text, string $way): array
    {
        if (preg_match("/^{$way}:([1-9]\\d{0,2})(?:-([1-9]\\d{0,2}))?$/D", $text, $found) !== 1) {
            return [];
        }
        $numbers = array_map(intval(...), array_slice($found, 1));

        return count($numbers) === 1 || $numbers[1] === $numbers[0] + 1 ? $numbers : [];
    }

    /** The first pair nothing goes to yet; null where all are taken. */
    public static function freePair(Session $session): ?string
    {
        $taken = [];
        foreach ($session->channels as $channel) {
            array_push($taken, ...self::numbers($channel->output, 'hw'));
        }
        foreach ($session->loops as $loop) {
            array_push($taken, ...$loop->outputs());
        }
        foreach (self::pairs() as $pair) {
            if (array_intersect(self::numbers($pair, 'hw'), $taken) === []) {
                return $pair;
            }
        }

        return null;
    }
}
