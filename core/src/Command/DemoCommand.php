<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Demo\FerryTerminal;

/** Writes the demo session and its recordings. */
final readonly class DemoCommand implements Command
{
    public function name(): string
    {
        return 'demo';
    }

    public function usage(): string
    {
        return 'demo FOLDER';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['FOLDER']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $folder = rtrim($arguments->position(0), '/');
        if (! is_dir($folder) && ! @mkdir($folder, 0o777, true)) {
            throw new WrongUsage("The folder \"{$folder}\" cannot be made.");
        }
        $demo = new FerryTerminal;
        foreach (array_keys(FerryTerminal::voices()) as $id) {
            $demo->write((string) $id, "{$folder}/{$id}.wav");
        }
        file_put_contents("{$folder}/session.json", $terminal->codec->encode($demo->session(static fn (string $id): string => "{$id}.wav"))."\n");
        $terminal->say("{$folder}/session.json and its tracks are there.");

        return 0;
    }
}
