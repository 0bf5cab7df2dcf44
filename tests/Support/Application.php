<?php

declare(strict_types=1);

namespace Tests\Support;

use RuntimeException;

/** Hafen itself, running for the browser tests: its servers, two workers, a data folder of its own and the demo session. */
final class Application
{
    private static ?self $running = null;

    /** @var resource */
    private $process;

    /** @param  array<string, string>  $more  environment */
    private function __construct(public readonly int $port, public readonly string $data, array $more = [])
    {
        $root = dirname(__DIR__, 2);
        $environment = [
            'PATH' => (string) getenv('PATH'),
            'HOME' => (string) getenv('HOME'),
            'APP_ENV' => 'testing',
            'APP_KEY' => 'base64:aGFmZW4taGFmZW4taGFmZW4taGFmZW4taGFmZW4tMDA=',
            'HAFEN_DATA' => $data,
            'HAFEN_DATABASE' => "{$data}/hafen.sqlite",
            'QUEUE_CONNECTION' => 'database',
            'HAFEN_OFFLINE_HARDWARE' => '1',
            ...$more,
        ];
        $process = proc_open(
            ['bash', "{$root}/tests/Support/serve.sh", (string) $port, $data],
            [['file', '/dev/null', 'r'], ['file', "{$data}/serve.log", 'w'], ['file', "{$data}/serve.log", 'a']],
            $pipes,
            $root,
            $environment,
        );
        $this->process = is_resource($process) ? $process : throw new RuntimeException('The application did not start.');
        $end = microtime(true) + 240;
        while (! is_file("{$data}/ready")) {
            if (microtime(true) > $end || ! proc_get_status($this->process)['running']) {
                throw new RuntimeException('The application did not come up: '.file_get_contents("{$data}/serve.log"));
            }
            usleep(200_000);
        }
    }

    /**
     * One more, on a data folder of its own; to be stopped by who started it.
     *
     * @param  array<string, string>  $environment
     */
    public static function on(string $data, array $environment = []): self
    {
        $application = new self(self::freePort(), $data, $environment);
        register_shutdown_function($application->stop(...));

        return $application;
    }

    /** The one instance all browser tests share; it ends with the test run. */
    public static function running(): self
    {
        if (self::$running === null) {
            $data = sys_get_temp_dir().'/hafen-application-'.bin2hex(random_bytes(5));
            mkdir($data);
            self::$running = new self(self::freePort(), $data);
            register_shutdown_function(static fn () => self::$running?->stop());
        }

        return self::$running;
    }

    public function url(string $path = '/'): string
    {
        return "http://127.0.0.1:{$this->port}{$path}";
    }

    /** @return array<array-key, mixed> */
    public function get(string $path): array
    {
        return json_decode((string) file_get_contents($this->url("/api/{$path}")), true, 64, JSON_THROW_ON_ERROR);
    }

    /**
     * @param  array<string, mixed>  $body
     * @return array<array-key, mixed>
     */
    public function post(string $path, array $body = []): array
    {
        return $this->send('POST', $path, $body);
    }

    /**
     * @param  array<string, mixed>  $body
     * @return array<array-key, mixed>
     */
    public function put(string $path, array $body): array
    {
        return $this->send('PUT', $path, $body);
    }

    /**
     * @param  array<string, mixed>  $body
     * @return array<array-key, mixed>
     */
    private function send(string $method, string $path, array $body): array
    {
        $context = stream_context_create(['http' => [
            'method' => $method,
            'header' => "Content-Type: application/json\r\nAccept: application/json\r\nX-Hafen: 1",
            'content' => json_encode((object) $body, JSON_THROW_ON_ERROR),
            'ignore_errors' => true,
        ]]);

        return json_decode((string) file_get_contents($this->url("/api/{$path}"), false, $context), true, 64, JSON_THROW_ON_ERROR);
    }

    public function stop(): void
    {
        if (! is_resource($this->process)) {
            return;
        }
        proc_terminate($this->process);
        proc_close($this->process);
        exec('rm -rf '.escapeshellarg($this->data).' 2>/dev/null');
    }

    private static function freePort(): int
    {
        do {
            $port = random_int(20000, 50000);
            $one = @stream_socket_server("tcp://127.0.0.1:{$port}");
            $two = @stream_socket_server('tcp://127.0.0.1:'.($port + 1));
        } while ($one === false || $two === false);
        fclose($one);
        fclose($two);

        return $port;
    }
}
