<?php

declare(strict_types=1);

namespace Hafen\Command;

/** Says whether a session document is valid. */
final readonly class ValidateCommand implements Command
{
    public function name(): string
    {
        return 'validate';
    }

    public function usage(): string
    {
        return 'validate SESSION.json';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $session = $terminal->open($arguments->position(0));
        $terminal->say("{$session->name}: a valid session of ".count($session->channels).' channels.');

        return 0;
    }
}
