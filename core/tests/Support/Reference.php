<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use RuntimeException;

/** Reference tools from Debian's packages. A test that needs one fails with its name when it is missing. */
final class Reference
{
    /**
     * Runs Python with scipy; `data` is what it gets, the JSON it prints is what comes back.
     *
     * @param  array<string, mixed>  $data
     */
    public static function python(string $code, array $data = []): mixed
    {
        $script = "import json, sys\nimport numpy as np\nimport scipy.signal as sig\ndata = json.load(sys.stdin)\n{$code}\n";
        $out = self::run(['/usr/bin/python3', '-c', $script], 'python3-numpy, python3-scipy', json_encode($data, JSON_THROW_ON_ERROR));

        return json_decode($out, true, 64, JSON_THROW_ON_ERROR);
    }

    /**
     * @param  list<string>  $command
     */
    public static function run(array $command, string $package, string $input = ''): string
    {
        if (trim((string) shell_exec('command -v '.escapeshellarg($command[0]))) === '') {
            throw new RuntimeException("{$command[0]} is missing: install {$package}.");
        }
        $process = proc_open($command, [['pipe', 'r'], ['pipe', 'w'], ['file', $errors = (string) tempnam('/tmp', 'hafen'), 'w']], $pipes);
        if (! is_resource($process)) {
            throw new RuntimeException("{$command[0]} did not start.");
        }
        fwrite($pipes[0], $input);
        fclose($pipes[0]);
        $out = (string) stream_get_contents($pipes[1]);
        $status = proc_close($process);
        $said = (string) file_get_contents($errors);
        unlink($errors);
        if ($status !== 0) {
            throw new RuntimeException("{$command[0]} ({$package}) failed: ".substr($said, -1500));
        }

        return $out === '' ? $said : $out;
    }
}
