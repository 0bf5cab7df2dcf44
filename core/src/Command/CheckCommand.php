<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Engine\LibraryAudioFiles;
use Hafen\Pilot\Advice;
use Hafen\Pilot\Pilot;
use Hafen\Pilot\Severity;

/** Lists the advice of the Pilot. Exit status 1 when something is severe, so that a script can tell. */
final readonly class CheckCommand implements Command
{
    public function name(): string
    {
        return 'check';
    }

    public function usage(): string
    {
        return 'check SESSION.json [--json] [--survey]    --survey: measures it, for what only the sound tells';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], [], ['json', 'survey']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $session = $terminal->open($arguments->position(0));
        $survey = $arguments->has('survey') ? $terminal->measured($session, $arguments->position(0)) : null;
        $audioFiles = new LibraryAudioFiles($terminal->library($arguments->position(0)));
        $notes = Pilot::standard()->advice($session, $terminal->processors, $survey, $audioFiles);
        if ($arguments->has('json')) {
            $terminal->json(array_map(static fn (Advice $note): array => $note->toArray(), $notes));
        } elseif ($notes === []) {
            $terminal->say("{$session->name}: nothing to note.");
        }
        foreach ($arguments->has('json') ? [] : $notes as $note) {
            $terminal->say(sprintf('%-12s %s%s', $note->severity->value, $note->text, $note->fix === null ? '' : " ({$note->fix->label})"));
        }
        $severe = array_filter($notes, static fn (Advice $note): bool => $note->severity === Severity::Severe);

        return $severe === [] ? 0 : 1;
    }
}
