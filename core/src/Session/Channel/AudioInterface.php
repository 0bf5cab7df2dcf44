<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

use Hafen\Session\Session;

/** The output pairs of the audio interface stand-in: eight outputs, in pairs "hw:1-2" to "hw:7-8". */
final class AudioInterface
{
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

    /** The first pair nothing goes to yet; null where all are taken. */
    public static function freePair(Session $session): ?string
    {
        $taken = array_map(static fn (Channel $channel): string => $channel->output, $session->channels);

        return array_values(array_diff(self::pairs(), $taken))[0] ?? null;
    }
}
