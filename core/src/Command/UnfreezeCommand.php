<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Printing\FreezeRefused;
use Hafen\Session\Channel\Channel;

/** Writes a session whose frozen channels, or some of them, play themselves again. */
final readonly class UnfreezeCommand implements Command
{
    public function name(): string
    {
        return 'unfreeze';
    }

    public function usage(): string
    {
        return 'unfreeze SESSION.json [--channels ID,ID] --out SESSION.json    all frozen channels where none are named';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], ['channels', 'out']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $path = $arguments->position(0);
        $out = $arguments->text('out') ?? throw new WrongUsage('unfreeze needs --out SESSION.json.');
        $session = $terminal->open($path);
        $channels = $arguments->list('channels') ?? array_map(static fn (Channel $channel): string => $channel->id, $session->channels);
        if (! is_dir(dirname($out))) {
            throw CannotWrite::session($out);
        }
        $file = new SessionFile($terminal);
        $session = $file->moved($session, dirname($path), dirname($out));
        foreach ($channels as $id) {
            $channel = $session->channel($id) ?? throw FreezeRefused::noSuchChannel($id);
            if ($channel->frozen !== null) {
                $terminal->say("{$channel->name} plays itself again.");
            }
            $session = $session->withChannel($channel->withFrozen(null));
        }
        $file->write($session, $out);

        return 0;
    }
}
