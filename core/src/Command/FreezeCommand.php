<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Engine\Compiler;
use Hafen\Engine\FolderLibrary;
use Hafen\Printing\FreezeOptions;
use Hafen\Printing\Freezer;
use Hafen\Session\Channel\Frozen;
use Hafen\Session\Session;

/** Writes a session in which some channels play files, and the files; it sounds the same. */
final readonly class FreezeCommand implements Command
{
    public const DOCUMENT = 'session.json';

    public function name(): string
    {
        return 'freeze';
    }

    public function usage(): string
    {
        return 'freeze SESSION.json --channels ID,ID [--tail auto|SECONDS] [--bits 32f|64f] --out FOLDER    a session with frozen channels that sounds the same';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], ['channels', 'tail', 'bits', 'out']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $path = $arguments->position(0);
        $out = $arguments->text('out') ?? throw new WrongUsage('freeze needs --out FOLDER.');
        $options = self::options($arguments);
        $channels = $arguments->list('channels') ?? throw new WrongUsage('freeze needs --channels ID,ID.');
        $session = $terminal->open($path);
        array_walk($channels, static fn (string $id) => Freezer::check($session, $id));
        if (! is_dir("{$out}/frozen") && ! @mkdir("{$out}/frozen", 0o775, true)) {
            throw CannotWrite::folder("{$out}/frozen");
        }
        $file = new SessionFile($terminal);
        $session = $file->moved($session, dirname($path), $out);
        $frozen = $session;
        foreach ($channels as $id) {
            $frozen = self::freeze($terminal, $session, $frozen, $id, $out, $options);
        }
        $file->write($frozen, "{$out}/".self::DOCUMENT);

        return 0;
    }

    /** @param  Session  $frozen  what is frozen already */
    private static function freeze(Terminal $terminal, Session $session, Session $frozen, string $id, string $out, FreezeOptions $options): Session
    {
        $channel = Freezer::check($frozen, $id);
        $written = "{$out}/frozen/{$id}.wav";
        $result = (new Freezer(new Compiler($terminal->processors, new FolderLibrary($out), $terminal->hardware($session, [$id])), $terminal->processors))->freeze($session, $id, $written, $options);
        // The name tells whether the file is altered later.
        $name = 'frozen/'.hash_file('sha256', $written).'.wav';
        if (! @rename($written, "{$out}/{$name}")) {
            throw CannotWrite::folder("{$out}/frozen");
        }
        $terminal->say(sprintf(
            '%s: %s, %d samples (%d of tail), peak %s',
            $channel->name,
            $name,
            $result->frames,
            $result->tail,
            Decibel::text(Decibel::fromGain($result->peak), 'dBFS', true),
        ));
        if ($options->tail === null && ! $result->faded) {
            $terminal->say("{$channel->name} sounds on after the end of its file; the freeze is stale once the session gets longer.");
        }

        return $frozen->withChannel($channel->withFrozen(new Frozen($name, $result->hash, $options->tail)));
    }

    private static function options(Arguments $arguments): FreezeOptions
    {
        $bits = $arguments->text('bits') ?? '32f';
        $format = in_array($bits, ['32f', '64f'], true) ? SampleFormat::from($bits) : throw new WrongUsage("--bits takes 32f or 64f, not \"{$bits}\".");

        return new FreezeOptions($arguments->tail(), $format);
    }
}
