<?php

declare(strict_types=1);

namespace Tests\Support;

/** An application with its supervisor, a Redis, and workers as they are on machines of their own: each with a data folder of its own. */
final class Pools
{
    private readonly int $port;

    /** @var array<string, resource> */
    private array $processes = [];

    /** @param  string  $artisan  by which supervisors and workers are started */
    public function __construct(private readonly string $folder, private readonly string $artisan = 'artisan')
    {
        foreach (['app', 'shared'] as $name) {
            mkdir("{$folder}/{$name}", recursive: true);
        }
        touch("{$folder}/app/hafen.sqlite");
        $socket = stream_socket_server('tcp://127.0.0.1:0');
        assert($socket !== false);
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        $this->startRedis();
    }

    public function startRedis(): void
    {
        $this->start('redis', ['redis-server', '--port', (string) $this->port, '--bind', '127.0.0.1', '--save', '', '--appendonly', 'no', '--dir', $this->folder], []);
        for ($try = 0; $try < 100 && @fsockopen('127.0.0.1', $this->port) === false; ++$try) {
            usleep(50_000);
        }
    }

    /** @param  array<string, string>  $environment  that is another for it */
    public function startSupervisor(array $environment = []): void
    {
        $this->start('supervisor', [PHP_BINARY, $this->artisan, 'hafen:supervise'], [...$this->application(), ...$environment]);
    }

    /** @param  array<string, string>  $environment  that is another for it */
    public function startWorker(string $name, array $environment = []): void
    {
        @mkdir("{$this->folder}/{$name}");
        $this->start($name, [PHP_BINARY, $this->artisan, 'queue:work', '--queue=default,surveys,previews,proofs', '--tries=1', '--timeout=0', '--sleep=0.1'], [
            ...$this->application(), 'HAFEN_ROLE' => 'worker', 'HAFEN_DATA' => "{$this->folder}/{$name}", 'HAFEN_DATABASE' => '/nowhere', ...$environment,
        ]);
    }

    /** Sends a signal to a process; one that is killed is waited for. */
    public function signal(string $name, int $signal): void
    {
        proc_terminate($this->processes[$name], $signal);
        if ($signal === SIGKILL) {
            proc_close($this->processes[$name]);
            unset($this->processes[$name]);
        }
    }

    public function isRunning(string $name): bool
    {
        return isset($this->processes[$name]) && proc_get_status($this->processes[$name])['running'];
    }

    public function stop(): void
    {
        foreach (array_keys($this->processes) as $name) {
            $this->signal($name, SIGCONT);
            $this->signal($name, SIGKILL);
        }
    }

    /** @return array<string, string> the environment of the application */
    public function application(): array
    {
        return [
            ...\workerEnvironment("{$this->folder}/app"),
            'QUEUE_CONNECTION' => 'redis', 'REDIS_PORT' => (string) $this->port, 'HAFEN_SHARED_DISK' => 'shared', 'HAFEN_SHARED_ROOT' => "{$this->folder}/shared",
            'LOG_CHANNEL' => 'errors',
        ];
    }

    /** What a process wrote. */
    public function log(string $name): string
    {
        return (string) @file_get_contents("{$this->folder}/{$name}.log");
    }

    /**
     * @param  list<string>  $command
     * @param  array<string, string>  $environment
     */
    private function start(string $name, array $command, array $environment): void
    {
        $log = ['file', "{$this->folder}/{$name}.log", 'a'];
        $process = proc_open($command, [1 => $log, 2 => $log], $pipes, base_path(), $environment === [] ? null : $environment);
        assert(is_resource($process));
        $this->processes[$name] = $process;
    }
}
