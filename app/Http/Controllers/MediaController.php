<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\Importer;
use App\Models\Media;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class MediaController
{
    public function show(Request $request, Media $media): JsonResponse
    {
        $rate = max(1, (int) $request->query('sampleRate', '48000'));

        return new JsonResponse([
            'id' => $media->id,
            'name' => $media->name,
            'status' => $media->status,
            'message' => $media->message,
            'sampleRate' => $media->sample_rate,
            'channels' => $media->channels,
            'format' => $media->format,
            'length' => $media->status === 'ready' ? Importer::length($media, $rate) : null,
            'overview' => $media->overview,
        ]);
    }
}
