<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Routing\SignalPath;

/** Writes where the sound of a channel goes. */
final readonly class PathCommand implements Command
{
    public function name(): string
    {
        return 'path';
    }

    public function usage(): string
    {
        return 'path SESSION.json CHANNEL [--format text|mermaid|dot]';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json', 'CHANNEL'], ['format']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $format = $arguments->text('format') ?? 'text';
        if (! in_array($format, ['text', 'mermaid', 'dot'], true)) {
            throw new WrongUsage("--format takes text, mermaid or dot, not \"{$format}\".");
        }
        $session = $terminal->open($arguments->position(0));
        $wanted = $arguments->position(1);
        $channel = $session->channel($wanted);
        foreach ($channel === null ? $session->channels : [] as $other) {
            $channel ??= $other->name === $wanted ? $other : null;
        }
        if ($channel === null) {
            throw NoSuchChannel::named($wanted, $session);
        }
        $path = SignalPath::of($session, $channel);
        $writer = new PathWriter($session, $terminal->processors);
        $terminal->say(match ($format) {
            'mermaid' => $writer->mermaid($path),
            'dot' => $writer->dot($path),
            default => $writer->text($path),
        });

        return 0;
    }
}
