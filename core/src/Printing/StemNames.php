<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Session\Session;

/** Names of files by a pattern: {channel}, {tap}, {date}, {n}. Each is made so that every file system takes it, and none comes twice. */
final class StemNames
{
    public const USUAL = '{n} {channel}';

    /** Bytes of a name. */
    private const LONGEST = 120;

    /**
     * @param  list<string>  $channels  ids
     * @param  ?string  $date  "2026-11-26"; today where it is left out
     * @return array<string, string> by channel id, without ending
     */
    public static function of(Session $session, array $channels, string $tap, string $pattern, ?string $date = null): array
    {
        $names = [];
        $digits = max(2, strlen((string) count($channels)));
        foreach ($channels as $index => $id) {
            $plain = self::filled($pattern, $session->channel($id)->name ?? $id, $tap, $date, sprintf("%0{$digits}d", $index + 1));
            $name = $plain;
            for ($count = 2; in_array(mb_strtolower($name), array_map(mb_strtolower(...), $names), true); ++$count) {
                $name = "{$plain} {$count}";
            }
            $names[$id] = $name;
        }

        return $names;
    }

    /**
     * The name of one file for several channels: the first stands for all.
     *
     * @param  non-empty-list<string>  $channels  ids
     */
    public static function ofSeveral(Session $session, array $channels, string $tap, string $pattern, ?string $date = null): string
    {
        $more = count($channels) - 1;
        $first = $session->channel($channels[0])->name ?? $channels[0];

        return self::filled($pattern, $more === 0 ? $first : "{$first} and {$more} more", $tap, $date, '01');
    }

    private static function filled(string $pattern, string $channel, string $tap, ?string $date, string $number): string
    {
        return self::plain(strtr($pattern, ['{channel}' => $channel, '{tap}' => $tap, '{date}' => $date ?? date('Y-m-d'), '{n}' => $number]));
    }

    private static function plain(string $name): string
    {
        $plain = trim((string) preg_replace('#[/\\\\:*?"<>|\x00-\x1F]+#u', '-', $name), ' .');

        return mb_strcut($plain === '' ? 'Print' : $plain, 0, self::LONGEST);
    }
}
