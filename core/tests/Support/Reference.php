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
     * The frequency of the highest peak within 3 % of one, in hertz, at 48 kHz: a parabola through the logarithms of a long spectrum (numpy).
     *
     * @param  list<float>  $sound
     */
    public static function peak(array $sound, float $near): float
    {
        $found = self::python(<<<'PY'
            x = np.array(data["x"]) * np.hanning(len(data["x"]))
            s = np.abs(np.fft.rfft(x, 8 * len(x)))
            lo, hi = [int(f * 8 * len(x) / 48000) for f in (data["f"] * 0.97, data["f"] * 1.03)]
            k = lo + int(np.argmax(s[lo:hi]))
            a, b, c = np.log(s[k - 1:k + 2])
            print(json.dumps((k + 0.5 * (a - c) / (a - 2 * b + c)) * 48000 / (8 * len(x))))
            PY, ['x' => $sound, 'f' => $near]);

        return is_numeric($found) ? (float) $found : throw new RuntimeException('numpy printed no frequency.');
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
