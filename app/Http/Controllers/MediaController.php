<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\AddressNumber;
use App\Media\Importer;
use App\Models\Media;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class MediaController
{
    public function show(Request $request, Media $media): JsonResponse
    {
        $rate = AddressNumber::of($request, 'sampleRate', 48000, 8000, 384_000);

        return new JsonResponse([
            'id' => $media->id,
            'name' => $media->name,
            'status' => $media->isPreparing() ? 'preparing' : $media->status,
            'progress' => $media->progress,
            'message' => $media->message,
            'sampleRate' => $media->sample_rate,
            'channels' => $media->channels,
            'format' => $media->format,
            'unreadable' => $media->unreadable,
            'length' => $media->status === 'ready' ? Importer::length($media, $rate) : null,
            'overview' => $media->overview,
        ]);
    }
}
