<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Media\DiskRoom;
use App\Media\Importer;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\StoredSession;
use App\Models\Upload;
use Hafen\Document\ContentHashes;
use Hafen\Document\SessionCodec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;
use Hafen\Session\Source\SessionFiles;
use Throwable;
use ZipArchive;

/**
 * A session with its sound in one ZIP: `session.json` in the published format, and the files it names beside it as WAV. What is
 * unpacked can be worked with on the command line.
 */
final readonly class SessionBundle
{
    private const DOCUMENT = 'session.json';

    /** Bytes of a document that are read. */
    private const MOST_BYTES = 16 << 20;

    /** Files a session may bring. */
    private const MOST_FILES = 2000;

    public function __construct(
        private SessionBook $book,
        private SessionCodec $codec,
        private ProcessorCatalogue $processors,
        private MediaFolder $folder,
        private Importer $importer,
        private DiskRoom $room,
    ) {
    }

    /**
     * Packs a session into a new file that the caller removes.
     *
     * @throws \App\Media\DiskFull
     * @throws BundleRefused when it cannot be written
     */
    public function pack(StoredSession $stored): string
    {
        $session = $this->book->open($stored);
        $names = $paths = [];
        foreach (SessionFiles::of($session, $this->processors) as $file) {
            $media = Media::query()->find($file);
            $path = $media === null ? null : $this->wav($media);
            if ($media !== null && $path !== null) {
                $names[$file] = $this->free($media->name, $names);
                $paths[$names[$file]] = $path;
            }
        }
        $this->room->need(array_sum(array_map(static fn (string $path): int => (int) filesize($path), $paths)), $session->name);
        $target = $this->folder->upload(bin2hex(random_bytes(16)).'.bundle.part');
        $zip = new ZipArchive;
        if ($zip->open($target, ZipArchive::CREATE | ZipArchive::OVERWRITE) !== true) {
            throw BundleRefused::cannotWrite($session->name);
        }
        $zip->addFromString(self::DOCUMENT, $this->codec->encode($this->renamed($session, $names)));
        foreach ($paths as $name => $path) {
            $zip->addFile($path, (string) $name);
            $zip->setCompressionName((string) $name, ZipArchive::CM_STORE);
        }
        if (! @$zip->close()) {
            @unlink($target);
            throw BundleRefused::cannotWrite($session->name);
        }

        return $target;
    }

    /**
     * Makes a session of a bundle that was uploaded.
     *
     * @return array{StoredSession, list<string>} with the ids of its files, which are still being prepared
     *
     * @throws BundleRefused
     * @throws \Hafen\Refusal saying what is wrong with its document
     */
    public function unpack(Upload $upload): array
    {
        $path = $this->folder->upload($upload->id);
        $zip = new ZipArchive;
        if ($zip->open($path, ZipArchive::RDONLY) !== true) {
            throw BundleRefused::notAZip($upload->name);
        }
        try {
            $session = $this->codec->decode($this->document($zip, $upload->name));
            $files = SessionFiles::of($session, $this->processors);
            $this->check($zip, $files, $upload->name);
            $uploads = $this->unpackAll($zip, array_filter($files, static fn (string $file): bool => $zip->locateName($file) !== false));
        } finally {
            $zip->close();
        }
        $names = array_map(fn (Upload $upload): string => $this->importer->keep($upload, $session->sampleRate)->id, $uploads);
        @unlink($path);
        $upload->delete();

        return [$this->book->create($this->renamed($session, $names)), array_values($names)];
    }

    /** @param  array<array-key, string>  $names  new names of files by present ones */
    private function renamed(Session $session, array $names): Session
    {
        return ContentHashes::of($session, $this->processors)->kept(SessionFiles::renamed($session, $this->processors, $names), $this->processors);
    }

    private function document(ZipArchive $zip, string $name): string
    {
        $about = $zip->statName(self::DOCUMENT);
        if ($about === false) {
            throw BundleRefused::noDocument($name, self::DOCUMENT);
        }
        if ($about['size'] > self::MOST_BYTES) {
            throw BundleRefused::documentTooLarge($name, $about['size'], self::MOST_BYTES);
        }

        return (string) $zip->getFromName(self::DOCUMENT, self::MOST_BYTES);
    }

    /** @param  list<string>  $files */
    private function check(ZipArchive $zip, array $files, string $name): void
    {
        if (count($files) > self::MOST_FILES) {
            throw BundleRefused::tooManyFiles($name, count($files), self::MOST_FILES);
        }
        $bytes = 0;
        foreach ($files as $file) {
            $bytes += $zip->statName($file)['size'] ?? 0;
        }
        $this->room->need(2 * $bytes, $name);
    }

    /**
     * Takes files out of a bundle, all or none of them.
     *
     * @param  array<array-key, string>  $files
     * @return array<array-key, Upload> by their names in the bundle
     *
     * @throws BundleRefused when one of them is damaged
     */
    private function unpackAll(ZipArchive $zip, array $files): array
    {
        $uploads = [];
        try {
            foreach ($files as $file) {
                $about = $zip->statName($file) ?: ['size' => 0, 'crc' => 0];
                $upload = Upload::query()->create(['name' => basename($file), 'bytes' => $about['size']]);
                $uploads[$file] = $upload;
                if (! $this->unpackOne($zip, $file, $upload, $about['crc'])) {
                    throw BundleRefused::brokenFile($file);
                }
            }
        } catch (Throwable $error) {
            foreach ($uploads as $upload) {
                @unlink($this->folder->upload($upload->id));
                $upload->delete();
            }
            throw $error;
        }

        return $uploads;
    }

    /** @return bool false where it is not as long as the bundle says, or its checksum is another */
    private function unpackOne(ZipArchive $zip, string $file, Upload $upload, int $checksum): bool
    {
        $path = $this->folder->upload($upload->id);
        $in = $zip->getStream($file);
        $out = fopen($path, 'wb');
        // No more is written than the bundle said. PHP warns of what is damaged, which is answered below.
        $copied = $in !== false && $out !== false ? @stream_copy_to_stream($in, $out, $upload->bytes + 1) : false;
        is_resource($in) && fclose($in);
        is_resource($out) && fclose($out);

        return $copied === $upload->bytes && hexdec((string) hash_file('crc32b', $path)) === $checksum;
    }

    private function wav(Media $media): ?string
    {
        $decoded = $this->folder->decoded($media->id);
        $path = is_file($decoded) ? $decoded : $this->folder->original($media);

        return is_file($path) ? $path : null;
    }

    /**
     * A name that no other file of the bundle has.
     *
     * @param  array<array-key, string>  $taken
     */
    private function free(string $name, array $taken): string
    {
        $plain = trim((string) preg_replace('/[^\pL\pN ._-]+/u', '-', $name), ' .') ?: 'Sound';
        $free = "audio/{$plain}.wav";
        for ($count = 2; in_array($free, $taken, true); ++$count) {
            $free = "audio/{$plain} {$count}.wav";
        }

        return $free;
    }
}
