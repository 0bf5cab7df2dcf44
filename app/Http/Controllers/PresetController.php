<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Preset;
use App\Presets\PresetShelf;
use Hafen\Preset\PresetCodec;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

final class PresetController
{
    public function index(Request $request, PresetShelf $shelf): JsonResponse
    {
        $processor = $request->query('processor');

        return new JsonResponse($shelf->presets(is_string($processor) ? $processor : null));
    }

    public function store(Request $request, PresetCodec $codec, PresetShelf $shelf): JsonResponse
    {
        return new JsonResponse($shelf->keep($codec->preset(JsonBody::of($request))), 201);
    }

    public function destroy(Preset $preset): Response
    {
        $preset->delete();

        return new Response('', 204);
    }
}
