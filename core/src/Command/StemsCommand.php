<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Engine\Tap;
use Hafen\Printing\Printer;
use Hafen\Printing\StemList;
use Hafen\Printing\StemNames;

/** Prints several channels to files of one length in one run, with a list of them. */
final readonly class StemsCommand implements Command
{
    public function name(): string
    {
        return 'stems';
    }

    public function usage(): string
    {
        return implode("\n", [
            'stems SESSION.json --out FOLDER [--channels ID,ID] [--tap source|pre-fader|post-fader] [--bits 16|24|32f] [--name PATTERN]',
            '            [--from SAMPLE] [--to SAMPLE] [--tail auto|SECONDS] [--returns apart|with-senders]',
            '            without --channels: all that lead straight to the main; with-senders: what the returns bring of each is in its file',
        ]);
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], ['out', 'channels', 'tap', 'bits', 'name', 'from', 'to', 'tail', 'returns']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $out = $arguments->text('out') ?? throw new WrongUsage('stems needs --out FOLDER.');
        $path = $arguments->position(0);
        $session = $terminal->open($path);
        $stage = $arguments->text('tap') ?? Tap::POST_FADER;
        if (! in_array($stage, [Tap::SOURCE, Tap::PRE_FADER, Tap::POST_FADER], true)) {
            throw new WrongUsage("--tap takes source, pre-fader or post-fader, not \"{$stage}\".");
        }
        $withReturns = self::withReturns($arguments, $stage);
        $channels = $arguments->list('channels') ?? Printer::stemsOf($session);
        foreach ($channels as $id) {
            $session->channel($id) ?? throw NoSuchChannel::named($id, $session);
        }
        if ($withReturns) {
            $channels = Printer::withoutReturns($session, $channels);
            $channels !== [] ?: throw new WrongUsage('--returns with-senders needs channels that send to returns, not returns alone.');
        }
        if (! is_dir($out) && ! @mkdir($out, 0o775, true)) {
            throw CannotWrite::folder($out);
        }
        $names = StemNames::of($session, $channels, $stage, $arguments->text('name') ?? StemNames::USUAL);
        $paths = [];
        foreach ($names as $id => $name) {
            $paths["{$id}:{$stage}"] = "{$out}/{$name}.wav";
        }
        assert($paths !== []);
        $printer = new Printer($terminal->compiler($path, $terminal->hardware($session)), $terminal->processors);
        $options = PrintCommand::options($arguments);
        $results = $withReturns ? $printer->stemsWithReturns($session, $paths, $options) : $printer->stems($session, $paths, $options);
        foreach ($results as $tap => $result) {
            PrintCommand::tell($terminal, $paths[$tap], $result);
        }
        if (@file_put_contents("{$out}/stems.txt", StemList::of($session, array_map(basename(...), $paths), $results, $withReturns)) === false) {
            throw CannotWrite::folder($out);
        }

        return 0;
    }

    private static function withReturns(Arguments $arguments, string $stage): bool
    {
        return match ($arguments->text('returns') ?? 'apart') {
            'apart' => false,
            'with-senders' => $stage === Tap::POST_FADER ? true : throw new WrongUsage('--returns with-senders goes with --tap post-fader only.'),
            default => throw new WrongUsage("--returns takes apart or with-senders, not \"{$arguments->text('returns')}\"."),
        };
    }
}
