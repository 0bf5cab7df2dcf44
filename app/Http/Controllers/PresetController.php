<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Preset;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\SessionCodec;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

final class PresetController
{
    public function index(Request $request): JsonResponse
    {
        return new JsonResponse(Preset::query()
            ->when($request->query('processor'), static fn ($query, $processor) => $query->where('processor', $processor))
            ->orderBy('name')
            ->get(['id', 'processor', 'name', 'parameters']));
    }

    public function store(Request $request, ProcessorCatalogue $processors, SessionCodec $codec): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['processor', 'name', 'parameters']);
        $processor = $body->get('processor')->oneOf($processors->ids());
        $preset = Preset::query()->updateOrCreate(
            ['processor' => $processor, 'name' => $body->get('name')->text(1, 120)],
            ['parameters' => $codec->parameters($body->get('parameters'), $processor)],
        );

        return new JsonResponse($preset->only(['id', 'processor', 'name', 'parameters']), 201);
    }

    public function destroy(Preset $preset): Response
    {
        $preset->delete();

        return new Response('', 204);
    }
}
