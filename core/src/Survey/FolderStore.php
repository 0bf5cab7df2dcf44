<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\Fault;
use Hafen\Engine\Replay;
use Hafen\Metering\Loudness;
use Hafen\Metering\OverRegion;
use Hafen\Metering\Spectrum;
use Hafen\Metering\TapReading;

/** Keeps measurements and captured audio in a folder, and removes the least recently used when it grows too large. */
final readonly class FolderStore implements SurveyStore
{
    private const VALUES = [
        PartMeasures::class, TapReading::class, Fault::class, SourceFigures::class, OutputFigures::class, MainFigures::class,
        LoudestMoment::class, Loudness::class, OverRegion::class, Spectrum::class, ClippedClip::class,
    ];

    private const TEMPORARY = 'hafen-survey-';

    /** Seconds after which a temporary folder counts as abandoned. */
    private const LEFT_BEHIND = 6 * 3600;

    /**
     * @param  int  $reserve  bytes of the disk that stay free
     * @param  bool  $keepsCaptures  see {@see keepsCaptures()}
     */
    public function __construct(private string $folder, private int $blockSize = PartRunner::BLOCK, private int $reserve = 0, private bool $keepsCaptures = true)
    {
        if (! is_dir($folder) && ! @mkdir($folder, 0o775, true) && ! is_dir($folder)) {
            throw SurveyStoreFull::cannotWrite($folder);
        }
    }

    /**
     * Creates a store in a temporary folder that is removed with this process.
     *
     * @param  bool  $keepsCaptures  whether more than one session will be measured with it
     */
    public static function temporary(bool $keepsCaptures = true): self
    {
        self::sweep();
        $folder = sys_get_temp_dir().'/'.self::TEMPORARY.bin2hex(random_bytes(6));
        $store = new self($folder, keepsCaptures: $keepsCaptures);
        register_shutdown_function($store->discard(...));

        return $store;
    }

    /** Deletes the folder. */
    public function discard(): void
    {
        if (is_dir($this->folder)) {
            $this->shrink(0);
            @rmdir($this->folder);
        }
    }

    /** Removes folders left by killed processes. */
    private static function sweep(): void
    {
        foreach (glob(sys_get_temp_dir().'/'.self::TEMPORARY.'*', GLOB_ONLYDIR) ?: [] as $folder) {
            if (@filemtime($folder) < time() - self::LEFT_BEHIND) {
                (new self($folder))->discard();
            }
        }
    }

    public function measures(string $hash): ?PartMeasures
    {
        $path = $this->path($hash);
        $bytes = is_file($path) ? file_get_contents($path) : false;
        $measures = $bytes === false ? null : @unserialize($bytes, ['allowed_classes' => self::VALUES]);

        return $measures instanceof PartMeasures ? $measures : null;
    }

    public function keep(string $hash, PartMeasures $measures): void
    {
        $bytes = serialize($measures);
        $unfinished = $this->path($hash).'.'.bin2hex(random_bytes(6)).'.part';
        if (@file_put_contents($unfinished, $bytes) !== strlen($bytes) || ! @rename($unfinished, $this->path($hash))) {
            @unlink($unfinished);
            throw SurveyStoreFull::cannotWrite($this->folder);
        }
    }

    public function keepsCaptures(): bool
    {
        return $this->keepsCaptures;
    }

    public function hasCapture(string $hash, string $stage): bool
    {
        return is_file($this->path($hash, $stage));
    }

    public function capture(string $hash, string $stage): AudioCapture
    {
        return new AudioCapture($this->path($hash, $stage), $this->reserve, $this->blockSize);
    }

    public function replay(string $hash, string $stage, int $start): Replay
    {
        return new CapturedAudio($this->path($hash, $stage), $start, $this->blockSize);
    }

    public function shrink(int $bytes, int $spare = 0): void
    {
        $files = [];
        foreach ((array) glob("{$this->folder}/*") as $path) {
            $files[(string) $path] = [(int) @filemtime((string) $path), (int) @filesize((string) $path)];
        }
        foreach (LeastRecentlyUsed::beyond($files, $bytes, time() - $spare) as $path) {
            @unlink($path);
        }
    }

    /**
     * The name of a file of the folder.
     *
     * @param  ?string  $stage  of captured audio; null is the measurements
     */
    public static function name(string $hash, ?string $stage = null): string
    {
        return $hash.($stage === null ? '.measures' : ".{$stage}.take");
    }

    private function path(string $hash, ?string $stage = null): string
    {
        return "{$this->folder}/".self::name($hash, $stage);
    }
}
