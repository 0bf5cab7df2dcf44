<?php

declare(strict_types=1);

/** A worker and its work, in processes and on a database of their own. */
function workerEnvironment(string $folder): array
{
    return [
        'PATH' => (string) getenv('PATH'), 'PHP_INI_SCAN_DIR' => ':'.base_path('config/php'), 'APP_ENV' => 'local', 'APP_KEY' => 'base64:aGFmZW4taGFmZW4taGFmZW4taGFmZW4taGFmZW4tMDA=',
        'HAFEN_DATA' => $folder, 'HAFEN_DATABASE' => "{$folder}/hafen.sqlite", 'QUEUE_CONNECTION' => 'database', 'CACHE_STORE' => 'array', 'LOG_CHANNEL' => 'null',
    ];
}

/**
 * @param  ?array<string, string>  $environment  of the application; one with a database of its own in the folder where it is left out
 * @return array<string, mixed>
 */
function tasks(string $folder, string $what, ?array $environment = null): array
{
    $process = proc_open([PHP_BINARY, base_path('tests/Support/worker-tasks.php'), $what], [1 => ['pipe', 'w'], 2 => ['redirect', 1]], $pipes, base_path(), $environment ?? workerEnvironment($folder));
    assert(is_resource($process));
    $said = (string) stream_get_contents($pipes[1]);
    expect(proc_close($process))->toBe(0, $said);

    return (array) json_decode($said, true);
}

/**
 * Runs a worker until nothing is left to do, or it leaves.
 *
 * @param  callable(int): bool  $disturb  gets its process id again and again; false ends that
 */
function work(string $folder, callable $disturb): int
{
    $process = proc_open(
        [PHP_BINARY, 'artisan', 'queue:work', '--queue=default,surveys,previews,proofs', '--stop-when-empty', '--tries=1', '--timeout=0', '--sleep=0.1'],
        [1 => ['file', "{$folder}/worker.log", 'a'], 2 => ['file', "{$folder}/worker.log", 'a']],
        $pipes, base_path(), workerEnvironment($folder),
    );
    assert(is_resource($process));
    while (($status = proc_get_status($process))['running']) {
        if (! $disturb($status['pid'])) {
            return proc_close($process);
        }
    }
    proc_close($process);

    return $status['exitcode'];
}
