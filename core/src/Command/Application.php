<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Audio\SampleLoops;
use Hafen\Refusal;

/**
 * The command line on session documents. Exit status 0: done; 1: refused, with one line on stderr naming the JSON pointer,
 * file or rule, or a check with severe advice; 2: wrong usage.
 */
final readonly class Application
{
    /** Lets the stand-ins of units of outboard run faster than the clock. */
    private const OFFLINE = '--offline-hardware';

    /** @var array<string, Command> by name */
    private array $commands;

    /**
     * @param  resource  $out
     * @param  resource  $error
     */
    public function __construct(private mixed $out, private mixed $error)
    {
        $commands = [];
        foreach ([new ValidateCommand, new ProcessorsCommand, new RenderCommand, new SurveyCommand, new LoadCommand, new FreezeCommand, new UnfreezeCommand, new PrintCommand, new StemsCommand, new PathCommand, new CheckCommand, new InputsCommand, new PingCommand, new RecallCommand, new NotesCommand, new DemoCommand, new SelfCheckCommand] as $command) {
            $commands[$command->name()] = $command;
        }
        $this->commands = $commands;
    }

    /** @param  list<string>  $words */
    public function run(array $words): int
    {
        try {
            // Whatever PHP complains of may have made sound or figures wrong.
            return SampleLoops::run(fn (): int => $this->obey(array_values(array_diff($words, [self::OFFLINE])), new Terminal($this->out, $this->error, in_array(self::OFFLINE, $words, true))));
        } catch (WrongUsage $wrong) {
            fwrite($this->error, $wrong->getMessage()."\n".$this->usage()."\n");

            return 2;
        } catch (Refusal $refusal) {
            fwrite($this->error, str_replace("\n", ' ', $refusal->line())."\n");

            return 1;
        }
    }

    /** @param  list<string>  $words */
    private function obey(array $words, Terminal $terminal): int
    {
        $name = $words[0] ?? '';
        if (in_array($name, ['help', '--help', '-h'], true)) {
            $terminal->say($this->usage());

            return 0;
        }
        $command = $this->commands[$name] ?? throw new WrongUsage($name === '' ? 'Which command?' : "There is no command \"{$name}\".");

        return $command->run($command->arguments(array_slice($words, 1)), $terminal);
    }

    private function usage(): string
    {
        return implode("\n", array_map(static fn (Command $command): string => 'hafen '.$command->usage(), $this->commands));
    }
}
