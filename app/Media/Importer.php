<?php

declare(strict_types=1);

namespace App\Media;

use App\Models\Media;
use App\Models\Upload;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\AudioSource;
use Hafen\Audio\Resampler;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Refusal;
use Illuminate\Support\Facades\Process;

/** Takes files in: checks them, keeps them under their hash, and prepares their sound for a session's rate. */
final readonly class Importer
{
    private const OVERVIEW_POINTS = 400;

    private const BLOCK = 16384;

    public function __construct(private MediaFolder $folder, private string $ffmpeg)
    {
    }

    /** Moves a finished upload into the library; a file that is already there is not stored twice. */
    public function keep(Upload $upload): Media
    {
        $path = $this->folder->upload($upload->id);
        $id = (string) hash_file('sha256', $path);
        $extension = strtolower(pathinfo($upload->name, PATHINFO_EXTENSION));
        $media = Media::query()->firstOrCreate(['id' => $id], [
            'name' => pathinfo($upload->name, PATHINFO_FILENAME) ?: 'Untitled',
            'extension' => preg_match('/^[a-z0-9]{1,8}$/', $extension) === 1 ? $extension : 'bin',
            'bytes' => $upload->bytes,
            'status' => 'preparing',
        ]);
        is_file($this->folder->original($media)) ? unlink($path) : rename($path, $this->folder->original($media));
        if ($media->status === 'failed') {
            $media->update(['status' => 'preparing', 'message' => null]);
        }
        $upload->delete();

        return $media;
    }

    /**
     * Reads the file, converts it to the rate where needed and draws its overview.
     *
     * @throws Refusal saying what is wrong with the file
     */
    public function prepare(Media $media, int $sampleRate): void
    {
        $source = $this->open($media);
        $media->fill([
            'sample_rate' => $source->sampleRate(),
            'channels' => $source->channels(),
            'frames' => $source->frames(),
            'format' => $source instanceof WavReader ? $source->header->format->samples->value : null,
        ]);
        if ($source->sampleRate() !== $sampleRate && ! is_file($this->folder->atRate($media->id, $sampleRate))) {
            $source = $this->convert($media, new Resampler($source, $sampleRate), $sampleRate);
        }
        $media->fill(['overview' => $media->overview ?? self::overview($source), 'status' => 'ready', 'message' => null])->save();
    }

    /** Samples the file lasts at a rate. */
    public static function length(Media $media, int $sampleRate): int
    {
        $rate = max(1, (int) $media->sample_rate);

        return intdiv((int) $media->frames * $sampleRate + $rate - 1, $rate);
    }

    private function open(Media $media): AudioSource
    {
        $path = $this->folder->original($media);
        $head = (string) file_get_contents($path, false, null, 0, 4);
        if ($head === 'RIFF' || $head === 'RF64' || in_array($media->extension, ['wav', 'wave', 'bwf'], true)) {
            return WavReader::open($path);
        }
        $decoded = $this->folder->decoded($media->id);
        if (! is_file($decoded)) {
            $this->decode($media, $path, $decoded);
        }

        return WavReader::open($decoded);
    }

    private function decode(Media $media, string $path, string $decoded): void
    {
        $partial = "{$decoded}.part";
        $run = Process::timeout(3600)->run([
            $this->ffmpeg, '-v', 'error', '-nostdin', '-y', '-protocol_whitelist', 'file', '-i', "file:{$path}",
            '-vn', '-map', '0:a:0', '-c:a', 'pcm_f32le', '-f', 'wav', "file:{$partial}",
        ]);
        if ($run->exitCode() === 127 || str_contains($run->errorOutput(), 'not found')) {
            throw ImportRefused::noDecoder($media->name);
        }
        if (! $run->successful()) {
            @unlink($partial);
            $lines = array_values(array_filter(explode("\n", trim(str_replace([$path, $partial], $media->name, $run->errorOutput())))));
            throw ImportRefused::notSound($media->name, mb_strimwidth(end($lines) ?: 'the decoder gave no reason', 0, 200, '…'));
        }
        rename($partial, $decoded);
    }

    private function convert(Media $media, Resampler $source, int $sampleRate): AudioSource
    {
        $path = $this->folder->atRate($media->id, $sampleRate);
        $partial = $path.'.'.getmypid().'.part';
        $writer = WavWriter::create($partial, new AudioFormat($sampleRate, $source->channels(), SampleFormat::Float32));
        try {
            for ($at = 0, $frames = $source->frames(); $at < $frames; $at += self::BLOCK) {
                $writer->write($source->read($at, min(self::BLOCK, $frames - $at)));
            }
            $writer->close();
        } catch (Refusal $refusal) {
            $writer->discard();
            throw $refusal;
        }
        rename($partial, $path);

        return WavReader::open($path);
    }

    /** @return list<float> largest sample in each of equally long stretches */
    private static function overview(AudioSource $source): array
    {
        $frames = $source->frames();
        $points = min(self::OVERVIEW_POINTS, $frames);
        $overview = array_fill(0, $points, 0.0);
        for ($at = 0; $at < $frames; $at += self::BLOCK) {
            foreach ($source->read($at, min(self::BLOCK, $frames - $at)) as $side) {
                foreach ($side as $i => $sample) {
                    $point = intdiv(($at + $i) * $points, $frames);
                    $size = abs($sample);
                    if ($size > $overview[$point]) {
                        $overview[$point] = $size;
                    }
                }
            }
        }

        return array_map(static fn (float $peak): float => round(min($peak, 1e6), 4), $overview);
    }
}
