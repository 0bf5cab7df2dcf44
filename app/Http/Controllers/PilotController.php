<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\LeftNote;
use App\Models\StoredSession;
use App\Sessions\SessionState;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class PilotController
{
    /** The notes as they are now: once the session is measured there may be more. */
    public function index(StoredSession $session, SessionState $state): JsonResponse
    {
        return new JsonResponse(['change' => $session->change, 'pilot' => $state->notes($session)]);
    }

    /** Leaves a note as it is, or takes it up again. */
    public function update(Request $request, StoredSession $session, SessionState $state): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['note', 'left']);
        $note = ['session_id' => $session->id, 'note' => $body->get('note')->text(1, 200)];
        if ($body->get('left')->boolean()) {
            LeftNote::query()->firstOrCreate($note);
        } else {
            LeftNote::query()->where($note)->delete();
        }

        return new JsonResponse($state->of($session));
    }
}
