<?php

declare(strict_types=1);

namespace Tests\Support;

use App\Jobs\PrepareMedia;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavWriter;
use Hafen\Session\Session;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

/** A small session in the application, with sound. */
final class Demo
{
    public static function session(?Session $session = null): StoredSession
    {
        $folder = app(MediaFolder::class);
        foreach (['cello' => 3, 'bass' => 4] as $id => $seed) {
            $media = Media::query()->create(['id' => $id, 'name' => $id, 'extension' => 'wav', 'bytes' => 1, 'status' => 'waiting', 'prepare_rate' => 48000]);
            self::wav($folder->original($media), Signal::noise(48000, $seed, 0.6));
            PrepareMedia::dispatchSync($id);
        }

        return app(SessionBook::class)->create($session ?? Mix::session([
            Mix::track('cello', [Mix::insert('i1', 'filter'), Mix::insert('i2', 'compressor')]),
            Mix::track('bass', [Mix::insert('i3', 'drive')]),
        ]));
    }

    /** @param  list<float>  $samples */
    public static function wav(string $path, array $samples, int $rate = 48000): void
    {
        $writer = WavWriter::create($path, new AudioFormat($rate, 1, SampleFormat::Float32));
        $writer->write([$samples]);
        $writer->close();
    }
}
