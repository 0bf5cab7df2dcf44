<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\SplitPreset;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Session\Insert\Split;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

final class SplitPresetController
{
    public function index(): JsonResponse
    {
        return new JsonResponse(SplitPreset::query()->orderBy('name')->get()->map(self::shown(...)));
    }

    public function store(Request $request, SessionCodec $codec): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['name', 'split'], ['macros', 'sounds']);
        $split = $body->get('split');
        $row = $codec->row(new JsonNode([$split->value], '/split'));
        if (! $row[0] instanceof Split) {
            throw $split->expected('a split');
        }
        $controls = SessionCodec::controlsToArray($codec->controls($body, $row));
        $json = static fn (mixed $part): string => json_encode($part, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE);
        $preset = SplitPreset::query()->updateOrCreate(
            ['name' => $body->get('name')->text(1, 120)],
            ['split' => $json($split->value), 'macros' => $json($controls['macros'] ?? []), 'sounds' => $json($controls['sounds'] ?? [])],
        );

        return new JsonResponse(self::shown($preset), 201);
    }

    public function destroy(SplitPreset $preset): Response
    {
        $preset->delete();

        return new Response('', 204);
    }

    /** @return array<string, mixed> */
    private static function shown(SplitPreset $preset): array
    {
        return ['id' => $preset->id, 'name' => $preset->name, 'split' => json_decode($preset->split), 'macros' => json_decode($preset->macros), 'sounds' => json_decode($preset->sounds)];
    }
}
