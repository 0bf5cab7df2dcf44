<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\AddressNumber;
use App\Media\DiskRoom;
use App\Media\Importer;
use App\Media\ImportRefused;
use App\Media\MediaFolder;
use App\Models\Upload;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Files come in pieces, each with the byte it starts at; what has arrived survives a lost connection. */
final readonly class UploadController
{
    private const MOST_BYTES = 32 << 30;

    public function __construct(private MediaFolder $folder, private DiskRoom $room)
    {
    }

    public function store(Request $request): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['name', 'bytes']);
        $name = $body->get('name')->text(1, 255);
        $bytes = $body->get('bytes')->integer(0, PHP_INT_MAX);
        if ($bytes > self::MOST_BYTES) {
            throw ImportRefused::tooLarge($name, $bytes, self::MOST_BYTES);
        }
        $this->room->need(2 * $bytes, $name);
        $upload = Upload::query()->create(['name' => basename($name), 'bytes' => $bytes]);
        touch($this->folder->upload($upload->id));

        return new JsonResponse(['id' => $upload->id, 'received' => 0], 201);
    }

    public function show(Upload $upload): JsonResponse
    {
        return new JsonResponse(['id' => $upload->id, 'received' => $upload->received, 'bytes' => $upload->bytes]);
    }

    public function append(Request $request, Upload $upload): JsonResponse
    {
        $offset = AddressNumber::of($request, 'offset', 0, 0, self::MOST_BYTES);
        if ($offset > $upload->received) {
            throw ImportRefused::gap($upload->name, $upload->received, $offset);
        }
        // What is announced too large is not read at all.
        $announced = (int) $request->headers->get('Content-Length', '0');
        if ($announced < 0 || $offset + $announced > $upload->bytes) {
            throw ImportRefused::bodyTooLarge($upload->name, $upload->bytes);
        }
        $this->room->need($announced, $upload->name);
        $piece = (string) $request->getContent();
        if ($offset + strlen($piece) > $upload->bytes) {
            throw ImportRefused::tooMuch($upload->name, $upload->bytes);
        }
        // A piece may come twice, after an answer was lost: it is written where it belongs.
        $path = $this->folder->upload($upload->id);
        $out = is_file($path) ? @fopen($path, 'r+b') : false;
        if ($out === false) {
            throw ImportRefused::finished($upload->name);
        }
        fseek($out, $offset);
        if ($piece !== '' && (@fwrite($out, $piece) !== strlen($piece) || ! @fflush($out))) {
            throw ImportRefused::diskFull($upload->name);
        }
        fclose($out);
        Upload::query()->whereKey($upload->id)->where('received', '<', $offset + strlen($piece))->update(['received' => $offset + strlen($piece)]);

        return new JsonResponse(['received' => max($upload->received, $offset + strlen($piece))]);
    }

    public function finish(Request $request, Upload $upload, Importer $importer): JsonResponse
    {
        $rate = JsonBody::of($request)->keys(['sampleRate'])->get('sampleRate')->integer(8000, 384_000);
        if ($upload->received < $upload->bytes) {
            throw ImportRefused::incomplete($upload->name, $upload->received, $upload->bytes);
        }
        $name = pathinfo($upload->name, PATHINFO_FILENAME);
        $media = $importer->keep($upload, $rate);

        return new JsonResponse(['id' => $media->id, 'name' => $name, 'status' => 'preparing'], 201);
    }
}
