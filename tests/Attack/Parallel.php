<?php

declare(strict_types=1);

namespace Tests\Attack;

use RuntimeException;

/** The same work in several processes at once. */
final class Parallel
{
    /**
     * @param  callable(int): array<array-key, mixed>  $work
     * @return list<array<array-key, mixed>> what each gave back
     */
    public static function run(int $processes, callable $work): array
    {
        $files = $pids = [];
        for ($process = 0; $process < $processes; ++$process) {
            $files[] = (string) tempnam(sys_get_temp_dir(), 'hafen-attack');
            $pid = pcntl_fork();
            if ($pid === -1) {
                throw new RuntimeException('No process could be started.');
            }
            if ($pid === 0) {
                file_put_contents($files[$process], serialize($work($process)));
                // Without the parent's shutdown functions, which would stop the application.
                posix_kill(posix_getpid(), SIGKILL);
            }
            $pids[] = $pid;
        }
        $given = [];
        foreach ($pids as $process => $pid) {
            pcntl_waitpid($pid, $status);
            $answer = @unserialize((string) file_get_contents($files[$process]));
            unlink($files[$process]);
            $given[] = is_array($answer) ? $answer : throw new RuntimeException("Process {$process} of the attack ended without an answer.");
        }

        return $given;
    }
}
