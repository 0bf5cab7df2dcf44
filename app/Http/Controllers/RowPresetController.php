<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\RowPreset;
use App\Presets\PresetShelf;
use Hafen\Preset\PresetCodec;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

final class RowPresetController
{
    public function index(PresetShelf $shelf): JsonResponse
    {
        return new JsonResponse($shelf->rows());
    }

    public function store(Request $request, PresetCodec $codec, PresetShelf $shelf): JsonResponse
    {
        return new JsonResponse($shelf->keepRow($codec->row(JsonBody::of($request))), 201);
    }

    public function destroy(RowPreset $preset): Response
    {
        $preset->delete();

        return new Response('', 204);
    }
}
