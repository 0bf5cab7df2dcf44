<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Refusal;

/** One command of the command line. */
interface Command
{
    /** The word that calls it. */
    public function name(): string;

    /** What follows "hafen " in the usage; further lines are indented. */
    public function usage(): string;

    /**
     * @param  list<string>  $words  after its name
     *
     * @throws WrongUsage
     */
    public function arguments(array $words): Arguments;

    /**
     * @return int exit status
     *
     * @throws WrongUsage
     * @throws Refusal
     */
    public function run(Arguments $arguments, Terminal $terminal): int;
}
