<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Preset\PresetCodec;
use Hafen\Preset\ShippedPresets;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ProcessorSpec;

/** Lists the processors, or writes their documentation. */
final readonly class ProcessorsCommand implements Command
{
    public function name(): string
    {
        return 'processors';
    }

    public function usage(): string
    {
        return 'processors [--json] [--docs FOLDER]    --docs: writes processors.md and its pictures there';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, [], ['docs'], ['json']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $specs = $terminal->processors->specs();
        $folder = $arguments->text('docs');
        if ($folder !== null) {
            $files = (new ProcessorDocs($terminal->processors, new ShippedPresets(new PresetCodec($terminal->codec))))->files();
            foreach ($files as $path => $text) {
                if (! is_dir(dirname("{$folder}/{$path}"))) {
                    mkdir(dirname("{$folder}/{$path}"), recursive: true);
                }
                file_put_contents("{$folder}/{$path}", $text);
            }
            $terminal->say(count($files).' files written.');

            return 0;
        }
        if ($arguments->has('json')) {
            $terminal->json(array_map(static fn (ProcessorSpec $spec): array => $spec->toArray(), $specs));

            return 0;
        }
        foreach ($specs as $spec) {
            $terminal->say(sprintf('%-14s %-14s %s', $spec->id, $spec->name, $spec->purpose));
            $terminal->say('    '.implode(', ', array_map(static fn (ParameterSpec $parameter): string => $parameter->id, $spec->parameters)));
        }

        return 0;
    }
}
