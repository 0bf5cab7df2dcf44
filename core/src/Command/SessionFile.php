<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Document\ContentHashes;
use Hafen\Session\Session;
use Hafen\Session\Source\SessionFiles;

/** Sessions that are written beside others: they name the same recordings by their way from the new place. */
final readonly class SessionFile
{
    public function __construct(private Terminal $terminal)
    {
    }

    /**
     * The session as a document in another folder names its recordings.
     *
     * @param  string  $from  folder of the document it was read from
     * @param  string  $to  folder of the document it will be in
     */
    public function moved(Session $session, string $from, string $to): Session
    {
        $way = self::way((string) realpath($to), (string) realpath($from));
        $names = [];
        foreach ($way === '' ? [] : SessionFiles::of($session, $this->terminal->processors) as $file) {
            $names[$file] = str_starts_with($file, '/') ? $file : self::joined($way, $file);
        }
        $renamed = SessionFiles::renamed($session, $this->terminal->processors, $names);

        return ContentHashes::of($session, $this->terminal->processors)->kept($renamed, $this->terminal->processors);
    }

    public function write(Session $session, string $path): void
    {
        if (@file_put_contents($path, $this->terminal->codec->encode($session)."\n") === false) {
            throw CannotWrite::session($path);
        }
    }

    /** A way with a file at its end, without steps into a folder and out of it again. */
    private static function joined(string $way, string $file): string
    {
        $steps = [];
        foreach (explode('/', "{$way}/{$file}") as $step) {
            if ($step === '..' && $steps !== [] && end($steps) !== '..') {
                array_pop($steps);
            } else {
                $steps[] = $step;
            }
        }

        return implode('/', $steps);
    }

    /** "../mix": the way from one folder to another; '' where it is the same. */
    private static function way(string $from, string $to): string
    {
        $here = $from === '/' ? [''] : explode('/', $from);
        $there = $to === '/' ? [''] : explode('/', $to);
        while ($here !== [] && $there !== [] && $here[0] === $there[0]) {
            array_shift($here);
            array_shift($there);
        }

        return implode('/', [...array_fill(0, count($here), '..'), ...$there]);
    }
}
