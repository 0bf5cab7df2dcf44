<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\StoredSession;
use App\Models\Upload;
use App\Sessions\SessionBook;
use App\Sessions\SessionBundle;
use App\Sessions\SessionState;
use App\Storage\Sweep;
use Hafen\Session\BlankSession;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

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

    /** Another session that starts as this one is. */
    public function copy(Request $request, StoredSession $session, SessionBook $book, SessionState $state): JsonResponse
    {
        $name = JsonBody::of($request)->keys(['name'])->get('name')->text(1, 120);

        return new JsonResponse($state->of($book->create($book->open($session)->withName($name))), 201);
    }

    /** Deletes a session; it can be brought back for a day. */
    public function discard(StoredSession $session): JsonResponse
    {
        $session->delete();

        return $this->index();
    }

    /** Sessions that can still be brought back. */
    public function discarded(): JsonResponse
    {
        return new JsonResponse(StoredSession::onlyTrashed()->orderByDesc('deleted_at')->get()->map(static fn (StoredSession $session): array => [
            'id' => $session->id,
            'name' => $session->name,
            'until' => $session->deleted_at?->addHours(Sweep::SESSION_HOURS)->toIso8601String(),
        ]));
    }

    public function restore(int $session): JsonResponse
    {
        StoredSession::onlyTrashed()->findOrFail($session)->restore();

        return $this->index();
    }

    /** The session with its files. */
    public function bundle(StoredSession $session, SessionBundle $bundle): BinaryFileResponse
    {
        $response = new BinaryFileResponse($bundle->pack($session), headers: ['Content-Type' => 'application/zip']);
        $name = str_replace(['/', '\\'], '-', $session->name);

        return $response->setContentDisposition('attachment', "{$name}.zip", ((string) preg_replace('/[^\x20-\x24\x26-\x7e]/', '-', $name)).'.zip')->deleteFileAfterSend();
    }

    /** Opens a session with its files that was uploaded. */
    public function unpack(Upload $upload, SessionBundle $bundle, SessionState $state): JsonResponse
    {
        [$stored, $media] = $bundle->unpack($upload);

        return new JsonResponse(['session' => $state->of($stored), 'media' => $media], 201);
    }
}
