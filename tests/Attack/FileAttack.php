<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Media\Decoder;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\Resampler;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Refusal;
use Hafen\Tests\Support\Signal;
use Throwable;

/** Recordings with broken heads, cut ends, wrong sizes and samples that are none; WAV by our own reader, others by the decoder. */
final class FileAttack
{
    /** One of so many is decoded by ffmpeg, which takes far longer. */
    private const DECODED = 25;

    /** Seconds after which reading one small file counts as stuck. */
    private const STUCK = 30.0;

    public static function run(int $files, string $folder): Outcome
    {
        $outcome = new Outcome('broken files');
        $sound = self::sounds($folder);
        $wavs = array_values(array_filter($sound, static fn (string $name): bool => str_ends_with($name, '.wav'), ARRAY_FILTER_USE_KEY));
        $others = array_filter($sound, static fn (string $name): bool => ! str_ends_with($name, '.wav'), ARRAY_FILTER_USE_KEY);
        for ($i = 0; $i < $files; ++$i) {
            $outcome->tried();
            $isWav = $i % self::DECODED !== 0 || $others === [];
            $name = $isWav ? 'odd.wav' : (string) array_rand($others);
            $path = "{$folder}/{$name}";
            file_put_contents($path, self::broken($isWav ? $wavs[array_rand($wavs)] : $others[$name]));
            $start = microtime(true);
            try {
                $isWav ? self::read($path, $outcome) : self::decode($path, "{$folder}/decoded.wav", $outcome);
                $outcome->note('read');
            } catch (Refusal $refusal) {
                $outcome->note('refused');
                if (str_contains($refusal->getMessage(), $folder)) {
                    $outcome->broke('wrong', "a message tells a path: {$refusal->getMessage()}");
                }
            } catch (Throwable $fault) {
                $outcome->broke('faults', $fault::class.": {$fault->getMessage()}");
            }
            if (microtime(true) - $start > self::STUCK) {
                $outcome->broke('stuck', "{$name} took ".round(microtime(true) - $start).' s');
            }
            if (glob("{$folder}/*.part") !== []) {
                $outcome->broke('wrong', 'an unfinished file was left');
                array_map(unlink(...), glob("{$folder}/*.part") ?: []);
            }
        }

        return $outcome;
    }

    private static function read(string $path, Outcome $outcome): void
    {
        $source = Resampler::to(WavReader::open($path), 48000);
        foreach ([0, intdiv($source->frames(), 2), max(0, $source->frames() - 100)] as $at) {
            foreach ($source->read($at, 200) as $side) {
                if (! is_finite(array_sum($side))) {
                    $outcome->broke('wrong', 'a sample is no number');
                }
            }
        }
    }

    private static function decode(string $path, string $to, Outcome $outcome): void
    {
        @unlink($to);
        app(Decoder::class)->decode($path, $to, 'Odd', static fn (): bool => true);
        self::read($to, $outcome);
    }

    private static function broken(string $bytes): string
    {
        $length = strlen($bytes);
        for ($turn = mt_rand(1, 4); $turn > 0; --$turn) {
            $head = min($length - 1, 64);
            $at = mt_rand(0, 2) === 0 ? mt_rand(0, $length - 1) : mt_rand(0, $head);
            switch (mt_rand(0, 6)) {
                case 0:
                    $bytes = substr($bytes, 0, $at);
                    break;
                case 1:
                    $bytes[$at] = chr(mt_rand(0, 255));
                    break;
                case 2:
                    $bytes = substr_replace($bytes, pack('V', [0, 1, 0x7FFFFFFF, 0xFFFFFFFF, mt_rand()][mt_rand(0, 4)]), $at, 4);
                    break;
                case 3:
                    $bytes = substr_replace($bytes, random_bytes(mt_rand(1, 40)), $at, mt_rand(0, 40));
                    break;
                case 4:
                    $bytes .= random_bytes(mt_rand(1, 500));
                    break;
                case 5:
                    $bytes = substr_replace($bytes, "\xFF\xFF\xFF\x7F\0\0\xC0\x7F\0\0\x80\xFF", min($length - 1, 200), 12);
                    break;
                default:
                    $bytes = substr($bytes, 0, $at).substr($bytes, mt_rand(0, max(0, strlen($bytes) - 1)));
            }
            $length = strlen($bytes);
            if ($length < 2) {
                return $bytes;
            }
        }

        return $bytes;
    }

    /** @return array<string, string> bytes by name */
    private static function sounds(string $folder): array
    {
        $sounds = [];
        foreach ([[48000, 1, SampleFormat::Float32], [44100, 2, SampleFormat::Int24], [44101, 1, SampleFormat::Int16], [96000, 2, SampleFormat::Float64], [8000, 1, SampleFormat::Int8]] as $i => [$rate, $channels, $format]) {
            $path = "{$folder}/whole-{$i}.wav";
            $writer = WavWriter::create($path, new AudioFormat($rate, $channels, $format));
            $writer->write(array_fill(0, $channels, Signal::noise(2000, 3 + $i, 0.6)));
            $writer->close();
            $sounds["whole-{$i}.wav"] = (string) file_get_contents($path);
        }
        foreach (['flac' => [], 'mp3' => ['-c:a', 'libmp3lame'], 'm4a' => ['-c:a', 'aac'], 'ogg' => ['-c:a', 'libvorbis'], 'aiff' => []] as $kind => $codec) {
            exec(implode(' ', array_map(escapeshellarg(...), ['ffmpeg', '-v', 'error', '-y', '-i', "{$folder}/whole-0.wav", ...$codec, "{$folder}/other.{$kind}"])));
            if (is_file("{$folder}/other.{$kind}")) {
                $sounds["other.{$kind}"] = (string) file_get_contents("{$folder}/other.{$kind}");
            }
        }

        return $sounds;
    }
}
