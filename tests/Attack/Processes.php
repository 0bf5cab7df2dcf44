<?php

declare(strict_types=1);

namespace Tests\Attack;

/** The processes of one running Hafen, by what they are; those of others on this machine are left alone. */
final readonly class Processes
{
    public const KINDS = ['worker', 'web process', 'listening process', 'web master', 'server master', 'server process', 'supervisor'];

    public function __construct(private string $data, private int $port)
    {
    }

    /** Kills one at random; null where none of the kind runs just now. */
    public function kill(string $kind): ?int
    {
        $pids = $this->of($kind);
        if ($pids === []) {
            return null;
        }
        $pid = $pids[array_rand($pids)];

        return posix_kill($pid, SIGKILL) ? $pid : null;
    }

    /** @return list<int> */
    public function of(string $kind): array
    {
        $run = sprintf('/tmp/hafen-%d-%d/', posix_getuid(), $this->port);
        $found = $parents = $lines = [];
        foreach (glob('/proc/[0-9]*', GLOB_ONLYDIR) ?: [] as $folder) {
            $pid = (int) basename($folder);
            $lines[$pid] = strtr((string) @file_get_contents("{$folder}/cmdline"), "\0", ' ');
            $parents[$pid] = (int) (explode(' ', (string) preg_replace('/^.*\) /s', '', (string) @file_get_contents("{$folder}/stat")))[1] ?? 0);
        }
        foreach ($lines as $pid => $line) {
            $above = $lines[$parents[$pid]] ?? '';
            $is = match ($kind) {
                'worker' => str_contains($line, 'artisan queue:work') && $this->isOurs($pid),
                'supervisor' => str_contains($line, 'artisan hafen:supervise') && $this->isOurs($pid),
                'web master' => str_starts_with($line, 'php-fpm: master') && str_contains($line, $run),
                'server master' => str_starts_with($line, 'nginx: master') && str_contains($line, $run),
                'web process' => str_starts_with($line, 'php-fpm: pool web') && str_contains($above, $run),
                'listening process' => str_starts_with($line, 'php-fpm: pool listen') && str_contains($above, $run),
                'server process' => str_starts_with($line, 'nginx: worker') && str_contains($above, $run),
                default => false,
            };
            if ($is && ! str_contains($line, 'keep_running')) {
                $found[] = $pid;
            }
        }

        return $found;
    }

    private function isOurs(int $pid): bool
    {
        return str_contains((string) @file_get_contents("/proc/{$pid}/environ"), "HAFEN_DATA={$this->data}\0");
    }
}
