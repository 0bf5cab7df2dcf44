<?php

declare(strict_types=1);

namespace App\Media;

use Closure;
use Illuminate\Support\Facades\Process;
use Symfony\Component\Process\Exception\ProcessSignaledException;
use Symfony\Component\Process\Process as Running;

/**
 * Decodes files other than WAV with ffmpeg, which gets one file to read and nothing else: no playlists, no network, no codecs but those
 * of sound, and no more time and disk than the length the file declares can need.
 */
final readonly class Decoder
{
    /** Containers that hold their sound themselves. Playlists (hls, dash, concat) name other files, so they are not among them. */
    private const CONTAINERS = 'aac,ac3,aiff,amr,ape,asf,au,caf,flac,matroska,mov,mp3,mp4,mpc,mpc8,ogg,tak,tta,w64,wav,webm,wv';

    private const CODECS = 'aac,aac_fixed,ac3,ac3_fixed,adpcm_ima_qt,adpcm_ima_wav,adpcm_ms,alac,amrnb,amrwb,ape,flac,libopus,libvorbis,mp1,mp1float,mp2,mp2float,'
        .'mp3,mp3float,mpc7,mpc8,opus,pcm_alaw,pcm_f32be,pcm_f32le,pcm_f64be,pcm_f64le,pcm_mulaw,pcm_s16be,pcm_s16le,pcm_s24be,pcm_s24le,'
        .'pcm_s32be,pcm_s32le,pcm_s8,pcm_u8,tak,tta,vorbis,wavpack,wmav1,wmav2';

    /** Seconds a file can last: a day. */
    private const LONGEST = 86_400;

    /** Seconds within which a file's head has to be read. */
    private const PROBE_SECONDS = 20;

    /** A decoded file larger than this may not be more than so many times as large as the file. */
    private const SMALL = 64 << 20;

    private const MOST_GROWTH = 1000;

    public function __construct(private DiskRoom $room, private string $ffmpeg, private string $ffprobe)
    {
    }

    /**
     * Writes the sound of a file as a WAV, whole or not at all.
     *
     * @param  string  $name  as the person knows it
     * @param  Closure(): bool  $goOn  asked while it works; false stops
     * @return bool false when stopped
     *
     * @throws ImportRefused
     * @throws DiskFull
     */
    public function decode(string $path, string $to, string $name, Closure $goOn): bool
    {
        [$seconds, $bytesPerSecond] = $this->declared($path, $name);
        $bytes = (int) ($seconds * $bytesPerSecond);
        if ($bytes > self::SMALL && $bytes > self::MOST_GROWTH * (int) filesize($path)) {
            throw ImportRefused::growsTooMuch($name, (int) filesize($path), $bytes);
        }
        $this->room->need($bytes, $name);
        $partial = $to.'.'.bin2hex(random_bytes(6)).'.part';
        $limit = 60 + (int) ceil($seconds / 2);
        // "timeout" leads a process group of its own: whatever becomes of this worker, all of the group ends in time.
        $run = new Running(['timeout', '--signal=KILL', (string) $limit, $this->ffmpeg, '-v', 'error', '-nostdin', '-y', ...self::input($path),
            '-vn', '-map', '0:a:0', '-c:a', 'pcm_f32le', '-t', (string) (1.05 * $seconds + 2.0), '-fs', (string) (int) (1.1 * $bytes + (1 << 20)), '-f', 'wav', "file:{$partial}"]);
        $run->setTimeout(null);
        try {
            $run->start();
            $pid = (int) $run->getPid();
            while ($run->isRunning()) {
                if (! $goOn()) {
                    posix_kill(-$pid, SIGKILL);
                    try {
                        $run->wait();
                    } catch (ProcessSignaledException) {
                        // As it was asked to.
                    }

                    return false;
                }
                usleep(30_000);
            }
            if ($run->getExitCode() === 127) {
                throw ImportRefused::noDecoder($name);
            }
            if ($run->getExitCode() === 128 + SIGKILL) {
                throw ImportRefused::tookTooLong($name, $limit);
            }
            if (! $run->isSuccessful()) {
                throw ImportRefused::notSound($name, self::reason($run->getErrorOutput(), [$path, $partial], $name));
            }
            rename($partial, $to);
        } finally {
            @unlink($partial);
        }

        return true;
    }

    /**
     * How long a file says it is, and how large a second of it becomes.
     *
     * @return array{float, float} seconds, bytes a second
     */
    private function declared(string $path, string $name): array
    {
        $run = Process::timeout(2 * self::PROBE_SECONDS)->run(['timeout', '--signal=KILL', (string) self::PROBE_SECONDS, $this->ffprobe, '-v', 'error', ...self::input($path),
            '-select_streams', 'a:0', '-show_entries', 'stream=sample_rate,channels,duration:format=duration', '-of', 'json']);
        if ($run->exitCode() === 127) {
            throw ImportRefused::noDecoder($name);
        }
        if (str_contains($run->errorOutput(), 'not on whitelist')) {
            throw ImportRefused::kind($name);
        }
        /** @var array{streams?: list<array{sample_rate?: string, channels?: int, duration?: string}>, format?: array{duration?: string}}|null $said */
        $said = json_decode($run->output(), true);
        $stream = $said['streams'][0] ?? null;
        if (! $run->successful() || $stream === null) {
            throw ImportRefused::notSound($name, self::reason($run->errorOutput(), [$path], $name));
        }
        $rate = (int) ($stream['sample_rate'] ?? 0);
        $channels = $stream['channels'] ?? 0;
        if ($rate <= 0 || $channels <= 0) {
            throw ImportRefused::notSound($name, 'it names no sample rate or no channels');
        }
        // One that does not say is taken for as long as it could be at 8 kbit/s.
        $seconds = (float) ($stream['duration'] ?? $said['format']['duration'] ?? filesize($path) / 1000);
        if (! ($seconds >= 0.0 && $seconds <= self::LONGEST)) {
            throw ImportRefused::tooLong($name, $seconds);
        }

        return [$seconds, 4.0 * $rate * $channels];
    }

    /** @return list<string> */
    private static function input(string $path): array
    {
        return ['-protocol_whitelist', 'file', '-format_whitelist', self::CONTAINERS, '-codec_whitelist', self::CODECS, '-i', "file:{$path}"];
    }

    /** @param  list<string>  $paths that are none of the person's business */
    private static function reason(string $said, array $paths, string $name): string
    {
        $lines = array_values(array_filter(explode("\n", trim(str_replace(['file:', ...$paths], ['', ...array_fill(0, count($paths), $name)], $said)))));

        return mb_strimwidth(end($lines) ?: 'the decoder gave no reason', 0, 200, '…');
    }
}
