<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\DismissedAdvice;
use App\Models\StoredSession;
use App\Sessions\SessionState;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class PilotController
{
    /** The advice as it is now: once the session is measured there may be more. */
    public function index(StoredSession $session, SessionState $state): JsonResponse
    {
        return new JsonResponse(['change' => $session->change, 'pilot' => $state->advice($session)]);
    }

    /** Dismisses a piece of advice, or takes it up again. */
    public function update(Request $request, StoredSession $session, SessionState $state): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['advice', 'dismissed']);
        $advice = ['session_id' => $session->id, 'advice' => $body->get('advice')->text(1, 200)];
        if ($body->get('dismissed')->boolean()) {
            DismissedAdvice::query()->firstOrCreate($advice);
        } else {
            DismissedAdvice::query()->where($advice)->delete();
        }

        return new JsonResponse($state->of($session));
    }
}
