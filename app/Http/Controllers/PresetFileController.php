<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Presets\PresetShelf;
use Hafen\Preset\PresetCodec;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Own presets as a file of the format "hafen-presets", out and in. */
final class PresetFileController
{
    public function show(PresetCodec $codec, PresetShelf $shelf): Response
    {
        return new Response($codec->encode($shelf->own()), 200, [
            'Content-Type' => 'application/json',
            'Content-Disposition' => 'attachment; filename="hafen-presets.json"',
        ]);
    }

    public function store(Request $request, PresetCodec $codec, PresetShelf $shelf): JsonResponse
    {
        return new JsonResponse($shelf->take($codec->decode($request->getContent())), 201);
    }
}
