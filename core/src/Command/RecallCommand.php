<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Hardware\RecallSheet;

/** Writes how the units of a session were set, as text, or as a page to be printed. */
final readonly class RecallCommand implements Command
{
    public function name(): string
    {
        return 'recall';
    }

    public function usage(): string
    {
        return 'recall SESSION.json [--html]';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], [], ['html']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $sheet = new RecallSheet($terminal->open($arguments->position(0)));
        $terminal->say($arguments->has('html') ? $sheet->asHtml() : rtrim($sheet->asText()));

        return 0;
    }
}
