<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

/** The further processes of engines in this process. */
final class EngineProcesses
{
    /** @return list<int> their ids */
    public static function ids(): array
    {
        $ids = [];
        foreach (glob('/proc/[0-9]*/stat') ?: [] as $file) {
            // The fourth field is who started it.
            if (preg_match('/^(\d+) \(.*\) \S (\d+) /', (string) @file_get_contents($file), $found) === 1
                && (int) $found[2] === getmypid()
                && str_contains((string) @file_get_contents("/proc/{$found[1]}/cmdline"), 'engine-process')) {
                $ids[] = (int) $found[1];
            }
        }

        return $ids;
    }

    public static function kill(): void
    {
        foreach (self::ids() as $id) {
            posix_kill($id, SIGKILL);
        }
    }
}
