<?php

declare(strict_types=1);

namespace App\Remote;

use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\UnreadableAudioFile;
use Hafen\Survey\LeastRecentlyUsed;
use Illuminate\Contracts\Filesystem\Filesystem;

/**
 * The files that machines share on a disk of Laravel's; each machine has those it needs in its own data folder. Where the data folder
 * itself is shared there is no such disk, and nothing to be done. Files are named by their content or by what they were made for, and
 * never change.
 */
final readonly class SharedFiles
{
    private const WORD = 'files.word';

    /** @param  string  $data  folder of this machine */
    public function __construct(private ?Filesystem $disk, private string $data)
    {
    }

    public function isNeeded(): bool
    {
        return $this->disk !== null;
    }

    /**
     * The word that names the files of this application, made where there is none: workers see by it whether they have the same before them.
     *
     * @throws UnableToWriteAudioFile when the data folder is closed
     */
    public function word(): string
    {
        $path = "{$this->data}/".self::WORD;
        if (! is_file($path)) {
            $unfinished = $path.'.'.bin2hex(random_bytes(6));
            if (@file_put_contents($unfinished, bin2hex(random_bytes(16))) === false || ! @link($unfinished, $path) && ! is_file($path)) {
                throw UnableToWriteAudioFile::open($path);
            }
            @unlink($unfinished);
        }
        $this->share([self::WORD]);

        return (string) @file_get_contents($path);
    }

    /** Whether the files a worker has before it are those the word names. */
    public function areOf(string $word): bool
    {
        return ($this->disk === null ? @file_get_contents("{$this->data}/".self::WORD) : $this->disk->get(self::WORD)) === $word;
    }

    /** Whether a file is on the disk. */
    public function has(string $file): bool
    {
        return $this->disk?->exists($file) ?? false;
    }

    /**
     * Puts files on the disk that are not there.
     *
     * @param  list<string>  $files  places below the data folder; what is not here is left out
     *
     * @throws UnableToWriteAudioFile when the disk does not take one
     */
    public function share(array $files): void
    {
        if ($this->disk === null) {
            return;
        }
        foreach ($files as $file) {
            $stream = is_file("{$this->data}/{$file}") && ! $this->disk->exists($file) ? @fopen("{$this->data}/{$file}", 'rb') : false;
            if ($stream === false) {
                continue;
            }
            $name = $file.'.'.bin2hex(random_bytes(6)).'.part';
            $isWritten = $this->disk->writeStream($name, $stream) && $this->disk->move($name, $file);
            if (is_resource($stream)) {
                fclose($stream);
            }
            if (! $isWritten) {
                throw UnableToWriteAudioFile::open("the shared disk: {$file}");
            }
        }
    }

    /**
     * Fetches files that are not here.
     *
     * @param  list<string>  $files  places below the data folder
     * @return bool whether all of them are here now
     *
     * @throws UnreadableAudioFile when the disk breaks off
     * @throws UnableToWriteAudioFile when there is no room for one
     */
    public function bring(array $files): bool
    {
        $all = true;
        foreach ($files as $file) {
            $all = $this->bringOne($file) && $all;
        }

        return $all;
    }

    /** @param  list<string>  $files  places below the data folder */
    public function remove(array $files): void
    {
        $this->disk?->delete($files);
    }

    /**
     * Removes what was put into a folder of the disk the longest ago, until at most so many bytes are left.
     *
     * @param  int  $spare  seconds for which what was put there stays whatever the size
     */
    public function shrink(string $folder, int $bytes, int $spare = 0): void
    {
        if ($this->disk === null) {
            return;
        }
        $files = [];
        foreach ($this->disk->files($folder) as $file) {
            $files[$file] = [$this->disk->lastModified($file), $this->disk->size($file)];
        }
        $this->remove(LeastRecentlyUsed::beyond($files, $bytes, time() - $spare));
    }

    private function bringOne(string $file): bool
    {
        $path = "{$this->data}/{$file}";
        if (is_file($path)) {
            return true;
        }
        if ($this->disk === null || ! $this->disk->exists($file)) {
            return false;
        }
        $stream = $this->disk->readStream($file);
        if ($stream === null) {
            throw UnreadableAudioFile::missing($file);
        }
        if (! is_dir(dirname($path))) {
            @mkdir(dirname($path), 0o775, true);
        }
        $unfinished = $path.'.'.bin2hex(random_bytes(6)).'.part';
        $copied = @file_put_contents($unfinished, $stream);
        fclose($stream);
        if ($copied !== $this->disk->size($file) || ! @rename($unfinished, $path)) {
            @unlink($unfinished);
            throw UnableToWriteAudioFile::open($path);
        }

        return true;
    }
}
