<?php

declare(strict_types=1);

namespace Hafen\Command;

/** Checks that the JIT computes what PHP computes without it. */
final readonly class SelfCheckCommand implements Command
{
    public function name(): string
    {
        return 'self-check';
    }

    public function usage(): string
    {
        return 'self-check    every processor and a small session, with the JIT on and off: the same to the bit?';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, [], [], ['hashes']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $check = new SelfCheck($terminal->processors);
        if ($arguments->has('hashes')) {
            $terminal->say(json_encode(['jit' => self::hasJit(), 'hashes' => $check->hashes()], JSON_THROW_ON_ERROR));

            return 0;
        }
        [$with, $without] = [self::hashesIn('tracing'), self::hashesIn('disable')];
        if (! $with['jit']) {
            throw SelfCheckFailed::noJit();
        }
        $different = array_map(strval(...), array_keys(array_diff_assoc($with['hashes'], $without['hashes'])));
        if ($different !== [] || count($with['hashes']) !== count($without['hashes'])) {
            throw SelfCheckFailed::differs($different);
        }
        $terminal->say(count($with['hashes']).' of '.count($with['hashes']).' are the same to the bit with the JIT on and off.');

        return 0;
    }

    /**
     * The hashes as another PHP finds them.
     *
     * @return array{jit: bool, hashes: array<string, string>}
     */
    private static function hashesIn(string $jit): array
    {
        $process = proc_open(
            [PHP_BINARY, '-d', "opcache.jit={$jit}", dirname(__DIR__, 2).'/bin/hafen', 'self-check', '--hashes'],
            [['file', '/dev/null', 'r'], ['pipe', 'w'], ['pipe', 'w']],
            $pipes,
        );
        if ($process === false) {
            throw SelfCheckFailed::didNotRun('no process could be started.');
        }
        $out = (string) stream_get_contents($pipes[1]);
        $said = trim((string) stream_get_contents($pipes[2]));
        proc_close($process);
        $answer = json_decode($out, true);
        if (! is_array($answer) || ! is_bool($answer['jit'] ?? null) || ! is_array($answer['hashes'] ?? null)) {
            throw SelfCheckFailed::didNotRun($said === '' ? 'it ended without a word.' : $said);
        }

        /** @var array{jit: bool, hashes: array<string, string>} $answer */
        return $answer;
    }

    private static function hasJit(): bool
    {
        $status = function_exists('opcache_get_status') ? opcache_get_status(false) : false;

        return is_array($status) && is_array($status['jit'] ?? null) && ($status['jit']['on'] ?? false) === true;
    }
}
