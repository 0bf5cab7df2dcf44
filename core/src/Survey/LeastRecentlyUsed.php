<?php

declare(strict_types=1);

namespace Hafen\Survey;

/** Which files to remove so that those that are left fit. */
final class LeastRecentlyUsed
{
    /**
     * @param  array<array-key, array{int, int}>  $files  time of last use and size in bytes, by name
     * @param  int  $bytes  that may be left
     * @param  int  $spared  time from which on what was used stays whatever the size
     * @return list<string> names
     */
    public static function beyond(array $files, int $bytes, int $spared): array
    {
        uasort($files, static fn (array $one, array $two): int => $two[0] <=> $one[0]);
        $kept = 0;
        $beyond = [];
        foreach ($files as $name => [$used, $size]) {
            $kept += $size;
            if ($kept > $bytes && $used <= $spared) {
                $beyond[] = (string) $name;
            }
        }

        return $beyond;
    }
}
