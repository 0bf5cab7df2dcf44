<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\StoredSession;
use App\Sessions\SessionBook;
use App\Sessions\SessionState;
use Hafen\Session\BlankSession;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class SessionController
{
    public function index(): JsonResponse
    {
        return new JsonResponse(StoredSession::query()->orderByDesc('updated_at')->get(['id', 'name', 'change', 'updated_at']));
    }

    public function store(Request $request, SessionBook $book, SessionState $state): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['name'], ['sampleRate']);
        $rate = $body->optional('sampleRate')?->integer(8000, 384_000) ?? 48000;

        return new JsonResponse($state->of($book->create(BlankSession::named($body->get('name')->text(1, 120), $rate))), 201);
    }

    public function show(StoredSession $session, SessionState $state): JsonResponse
    {
        return new JsonResponse($state->of($session));
    }

    public function revisions(StoredSession $session, SessionState $state): JsonResponse
    {
        return new JsonResponse($state->revisions($session));
    }
}
