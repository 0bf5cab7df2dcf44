<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Audio\WavReader;
use Hafen\Engine\Compiler;
use Hafen\Printing\FreezeOptions;
use Hafen\Printing\Freezer;
use Hafen\Printing\FreezeResult;
use Hafen\Session\Channel\Frozen;
use Hafen\Session\Session;

/** Freezes channels of small sessions, with the files in memory. */
final class Freezes
{
    /** The session with a channel frozen, its file in the library. */
    public static function freeze(Session $session, MemoryLibrary $library, string $id, FreezeOptions $options = new FreezeOptions): Session
    {
        [$result, $sides] = self::render($session, $library, $id, $options);
        $library->files["frozen-{$id}"] = $sides;
        $channel = $session->channel($id);
        assert($channel !== null);

        return $session->withChannel($channel->withFrozen(new Frozen("frozen-{$id}", $result->hash, $options->tail)));
    }

    /** @return array{FreezeResult, list<list<float>>} with the samples of the file */
    public static function render(Session $session, MemoryLibrary $library, string $id, FreezeOptions $options = new FreezeOptions): array
    {
        $processors = Mix::processors();
        $path = (string) tempnam(sys_get_temp_dir(), 'freeze');
        $result = (new Freezer(new Compiler($processors, $library), $processors))->freeze($session, $id, $path, $options);
        $file = WavReader::open($path);
        $sides = $file->read(0, $file->frames());
        unlink($path);

        return [$result, $sides];
    }
}
