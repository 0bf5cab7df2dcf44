<?php

declare(strict_types=1);

namespace App\Media;

use App\Models\Media;
use App\Models\Upload;
use App\Work\Claim;
use Closure;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\Resampler;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Refusal;
use Throwable;

/** Takes files in: checks them, keeps them under their hash, and prepares their sound for a session's rate. */
final readonly class Importer
{
    private const OVERVIEW_POINTS = 400;

    private const BLOCK = 16384;

    public function __construct(private MediaFolder $folder, private Decoder $decoder, private DiskRoom $room)
    {
    }

    /**
     * Moves a finished upload into the library; a file that is already there is not stored twice.
     *
     * @param  int  $sampleRate  Hz at which it is wanted
     *
     * @throws ImportRefused when another request finished it already
     */
    public function keep(Upload $upload, int $sampleRate): Media
    {
        // Of two that finish the same upload one takes the file.
        $path = $this->folder->upload($upload->id).'.finished';
        if (! @rename($this->folder->upload($upload->id), $path)) {
            throw ImportRefused::finished($upload->name);
        }
        $id = (string) hash_file('sha256', $path);
        $extension = strtolower(pathinfo($upload->name, PATHINFO_EXTENSION));
        $media = Media::query()->firstOrCreate(['id' => $id], [
            'name' => pathinfo($upload->name, PATHINFO_FILENAME) ?: 'Untitled',
            'extension' => preg_match('/^[a-z0-9]{1,8}$/', $extension) === 1 ? $extension : 'bin',
            'bytes' => $upload->bytes,
            'status' => 'waiting',
            'prepare_rate' => $sampleRate,
        ]);
        is_file($this->folder->original($media)) ? unlink($path) : rename($path, $this->folder->original($media));
        $upload->delete();
        if ($media->wasRecentlyCreated || $this->begin($media, $sampleRate)) {
            Claim::queue($media);
        }

        return $media;
    }

    /**
     * Moves the file of a freeze, a print or a take into the library, ready to be played.
     *
     * @param  ?string  $frozenFrom  name of the channel it is a freeze of
     * @param  Closure(): bool  $goOn  false stops
     * @return ?Media null when stopped
     *
     * @throws UnableToWriteAudioFile when it cannot be moved there
     */
    public function keepRendered(string $path, string $name, ?string $frozenFrom, Closure $goOn): ?Media
    {
        $source = WavReader::open($path);
        $sketch = SampleLoops::run(static fn (): ?FileSketch => FileSketch::of($source, self::OVERVIEW_POINTS, self::BLOCK, static fn (): bool => $goOn()));
        if ($sketch === null) {
            return null;
        }
        $media = Media::query()->firstOrCreate(['id' => (string) hash_file('sha256', $path)], [
            'name' => $name,
            'extension' => 'wav',
            'bytes' => (int) filesize($path),
            'status' => 'ready',
            'sample_rate' => $source->sampleRate(),
            'channels' => $source->channels(),
            'frames' => $source->frames(),
            'format' => $source->header->format->samples->value,
            'overview' => $sketch->overview,
            'frozen_from' => $frozenFrom,
        ]);
        if (! is_file($this->folder->original($media)) && ! @rename($path, $this->folder->original($media))) {
            throw UnableToWriteAudioFile::open($this->folder->original($media));
        }

        return $media;
    }

    /**
     * Reads the file, converts it to the rate where needed and draws its overview.
     *
     * @throws Refusal saying what is wrong with the file
     */
    public function prepare(Claim $claim): void
    {
        $media = $claim->task;
        assert($media instanceof Media);
        $sampleRate = $media->prepare_rate ?? 48000;
        $figures = SampleLoops::run(fn (): ?array => $this->prepared($media, $sampleRate, $claim->beat(...)));
        if ($figures !== null) {
            $claim->finish([...$figures, 'status' => 'ready', 'message' => null, 'progress' => 1.0]);
        }
    }

    /** Samples the file lasts at a rate. */
    public static function length(Media $media, int $sampleRate): int
    {
        $rate = max(1, (int) $media->sample_rate);

        return intdiv((int) $media->frames * $sampleRate + $rate - 1, $rate);
    }

    /** Whether a file that is there is to be prepared again: it failed before, or is wanted at another rate. */
    private function begin(Media $media, int $sampleRate): bool
    {
        $isThere = $media->status === 'ready' && ($media->sample_rate === $sampleRate || is_file($this->folder->atRate($media->id, $sampleRate)));

        return ! $isThere && Media::query()->whereKey($media->id)->whereIn('status', ['ready', 'failed'])->update([
            'status' => 'waiting', 'message' => null, 'prepare_rate' => $sampleRate, 'attempts' => 0, 'progress' => 0.0,
        ]) > 0;
    }

    /**
     * @param  Closure(int, int): bool  $beat
     * @return ?array<string, mixed> columns of the media; null when stopped
     */
    private function prepared(Media $media, int $sampleRate, Closure $beat): ?array
    {
        $source = $this->open($media, $beat);
        if ($source === null) {
            return null;
        }
        $figures = [
            'sample_rate' => $source->sampleRate(),
            'channels' => $source->channels(),
            'frames' => $source->frames(),
            'format' => $source->header->format->samples->value,
        ];
        $isAtRate = $source->sampleRate() === $sampleRate || is_file($this->folder->atRate($media->id, $sampleRate));
        if (! $isAtRate && ! $this->convert($media, new Resampler($source, $sampleRate), $sampleRate, $beat)) {
            return null;
        }
        $sketch = FileSketch::of($source, self::OVERVIEW_POINTS, self::BLOCK, $beat);

        return $sketch === null ? null : [...$figures, 'overview' => $sketch->overview, 'unreadable' => $sketch->unreadable];
    }

    /** @param  Closure(int, int): bool  $beat */
    private function open(Media $media, Closure $beat): ?WavReader
    {
        $path = $this->folder->original($media);
        $head = (string) @file_get_contents($path, false, null, 0, 4);
        if ($head === 'RIFF' || $head === 'RF64' || in_array($media->extension, ['wav', 'wave', 'bwf'], true)) {
            return WavReader::open($path);
        }
        $decoded = $this->folder->decoded($media->id);
        if (! is_file($decoded) && ! $this->decoder->decode($path, $decoded, $media->name, static fn (): bool => $beat(0, 0))) {
            return null;
        }

        return WavReader::open($decoded);
    }

    /**
     * Writes the sound at another rate, whole or not at all.
     *
     * @param  Closure(int, int): bool  $beat
     * @return bool false when stopped
     *
     * @throws DiskFull
     * @throws UnableToWriteAudioFile
     */
    private function convert(Media $media, Resampler $source, int $sampleRate, Closure $beat): bool
    {
        $frames = $source->frames();
        $this->room->need(4 * $source->channels() * $frames, $media->name);
        $writer = WavWriter::create($this->folder->atRate($media->id, $sampleRate), new AudioFormat($sampleRate, $source->channels(), SampleFormat::Float32));
        try {
            for ($at = 0; $at < $frames; $at += self::BLOCK) {
                $writer->write($source->read($at, min(self::BLOCK, $frames - $at)));
                if (! $beat($at, 2 * $frames)) {
                    $writer->discard();

                    return false;
                }
            }
            $writer->close();
        } catch (Throwable $failure) {
            $writer->discard();
            throw $failure;
        }

        return true;
    }
}
