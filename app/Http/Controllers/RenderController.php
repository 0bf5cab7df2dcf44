<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\Heartbeat;
use App\Jobs\RenderSession;
use App\Media\MediaFolder;
use App\Models\Render;
use App\Models\StoredSession;
use Hafen\Engine\Tap;
use Hafen\Session\JsonNode;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

final class RenderController
{
    public function store(Request $request, StoredSession $session): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['format'], ['tap', 'from', 'to', 'tail', 'name', 'clip']);
        $render = Render::query()->create([
            'session_id' => $session->id,
            'document' => $session->head->document,
            'name' => $body->optional('name')?->text(1, 120) ?? $session->name,
            'status' => 'waiting',
            'options' => [
                'format' => $body->get('format')->oneOf(['16', '24', '32f']),
                'tap' => self::tap($body->optional('tap')),
                'from' => $body->optional('from')?->integer(0, 1 << 40) ?? 0,
                'to' => $body->optional('to')?->integer(1, 1 << 40),
                // Somebody wants it although it clips.
                'clip' => $body->optional('clip')?->boolean() ?? false,
                'tail' => $body->optional('tail')?->number(0.0, 600.0, 's') ?? 0.0,
            ],
        ]);
        RenderSession::dispatch($render->id);

        return new JsonResponse(self::state($render->refresh()), 202);
    }

    public function show(Render $render): JsonResponse
    {
        $lost = in_array($render->status, ['running', 'stopping'], true)
            && $render->beat_at !== null
            && $render->beat_at->diffInSeconds(now()) > Heartbeat::LOST_AFTER;
        if ($lost) {
            $render->update(['status' => 'failed', 'message' => 'The worker that made this render is gone. Start the render again.']);
        }

        return new JsonResponse(self::state($render));
    }

    public function stop(Render $render): JsonResponse
    {
        Render::query()->whereKey($render->id)->where('status', 'running')->update(['status' => 'stopping']);
        Render::query()->whereKey($render->id)->where('status', 'waiting')->update(['status' => 'stopped', 'message' => 'Stopped before it began.']);

        return new JsonResponse(self::state($render->refresh()));
    }

    public function file(Render $render, MediaFolder $folder): BinaryFileResponse
    {
        abort_unless($render->status === 'done' && is_file($folder->render($render->id)), 404);
        $name = trim((string) preg_replace('#[/\\\\:*?"<>|\x00-\x1F]+#u', '-', $render->name)) ?: 'mix';

        return response()->download($folder->render($render->id), "{$name}.wav", ['Content-Type' => 'audio/wav']);
    }

    private static function tap(?JsonNode $node): ?string
    {
        if ($node === null || $node->value === null) {
            return null;
        }
        $text = $node->text(1, 140);

        return Tap::fromString($text) === null ? throw $node->expected('a tap such as "cello:pre-fader"') : $text;
    }

    /** @return array<string, mixed> */
    private static function state(Render $render): array
    {
        return [
            'id' => $render->id,
            'name' => $render->name,
            'status' => $render->status,
            'progress' => $render->progress,
            'message' => $render->message,
            'result' => $render->status === 'refused' ? null : $render->result,
            'clips' => $render->status === 'refused' ? $render->result : null,
        ];
    }
}
