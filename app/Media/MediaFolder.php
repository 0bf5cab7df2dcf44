<?php

declare(strict_types=1);

namespace App\Media;

use App\Models\Media;
use Hafen\Audio\UnableToWriteAudioFile;

/** Where files lie on disk: imports under their hash, untouched; what is made from them beside them. */
final readonly class MediaFolder
{
    public function __construct(private string $root)
    {
    }

    /** The file as it was imported. */
    public function original(Media $media): string
    {
        return $this->folder('media')."/{$media->id}.{$media->extension}";
    }

    /** The sound of an import that is not a WAV itself. */
    public function decoded(string $id): string
    {
        return $this->folder('media')."/{$id}.decoded.wav";
    }

    /** The sound at a session's rate. */
    public function atRate(string $id, int $rate): string
    {
        return $this->folder('media')."/{$id}.{$rate}.wav";
    }

    /** The sound of an import as it is: decoded where it was no WAV; null when there is none. */
    public function asImported(string $id): ?string
    {
        $decoded = $this->decoded($id);

        $originals = array_filter(glob("{$this->root}/media/{$id}.[a-zA-Z]*") ?: [], static fn (string $path): bool => ! str_ends_with($path, '.part'));

        return is_file($decoded) ? $decoded : (array_values($originals)[0] ?? null);
    }

    public function upload(string $id): string
    {
        return $this->folder('uploads')."/{$id}";
    }

    /** What the browser's microphone at an input sends. */
    public function microphone(int $port): string
    {
        return $this->folder('microphones')."/{$port}.ring";
    }

    public function render(string $id): string
    {
        return $this->folder('renders')."/{$id}.wav";
    }

    /** A freeze, a print or a take until it is in the library. */
    public function unfinishedPrint(string $id): string
    {
        return $this->folder('renders')."/print-{$id}.".bin2hex(random_bytes(4)).'.part';
    }

    /** The files of a print that goes to files. */
    public function archive(string $batch): string
    {
        return $this->folder('renders')."/{$batch}.zip";
    }

    /** @return list<string> archives nobody needs for long: they are downloaded once */
    public function archives(): array
    {
        return glob("{$this->root}/renders/*.zip") ?: [];
    }

    /** @return list<string> the import and all that was made from it */
    public function filesOf(Media $media): array
    {
        return glob("{$this->root}/media/{$media->id}.*") ?: [];
    }

    /** @return list<string> the same by their place below the data folder, without what is being written */
    public function placesOf(Media $media): array
    {
        return array_values(array_map(
            static fn (string $path): string => 'media/'.basename($path),
            array_filter($this->filesOf($media), static fn (string $path): bool => ! str_ends_with($path, '.part')),
        ));
    }

    /** Bytes of an import and all that was made from it. */
    public function sizeOf(Media $media): int
    {
        return self::sum($this->filesOf($media));
    }

    /** Bytes in one of the folders: media, renders, surveys, uploads. */
    public function size(string $folder): int
    {
        return self::sum(glob("{$this->root}/{$folder}/*") ?: []);
    }

    /** @param  list<string>  $paths */
    private static function sum(array $paths): int
    {
        return array_sum(array_map(static fn (string $path): int => (int) @filesize($path), $paths));
    }

    /** Whether there is a file at a place below the data folder. */
    public function has(string $place): bool
    {
        return is_file("{$this->root}/{$place}");
    }

    /** @return list<string> files that are being written, or were when their process was killed */
    public function unfinished(): array
    {
        return [
            ...(glob("{$this->root}/{media,renders,surveys,uploads}/*.part", GLOB_BRACE) ?: []),
            ...(glob("{$this->root}/uploads/*.finished") ?: []),
        ];
    }

    private function folder(string $name): string
    {
        $folder = "{$this->root}/{$name}";
        if (! is_dir($folder) && ! @mkdir($folder, 0o775, true) && ! is_dir($folder)) {
            throw UnableToWriteAudioFile::open($folder);
        }

        return $folder;
    }
}
