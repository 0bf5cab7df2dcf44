<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Loads\LoadDesk;
use App\Models\StoredSession;
use Hafen\Load\FewestBy;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** What a session takes of the machine. */
final readonly class LoadController
{
    public function __construct(private LoadDesk $desk)
    {
    }

    public function show(StoredSession $session): JsonResponse
    {
        return new JsonResponse($this->desk->state($session));
    }

    public function store(Request $request, StoredSession $session): JsonResponse
    {
        $body = JsonBody::of($request)->keys([], ['again']);
        $this->desk->request($session, $body->optional('again')?->boolean() ?? false);

        return new JsonResponse($this->desk->state($session), 202);
    }

    /** The smallest set of freezes that brings it to a load; null where it is not measured as it is now. */
    public function plan(Request $request, StoredSession $session): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['target', 'by']);
        $plan = $this->desk->plan($session, $body->get('target')->number(0.01, 10.0), FewestBy::from($body->get('by')->oneOf(array_column(FewestBy::cases(), 'value'))));

        return new JsonResponse(['plan' => $plan === null ? null : [
            'channels' => $plan->channels,
            'before' => $plan->before,
            'after' => $plan->after,
            'seconds' => $plan->seconds,
            'isReached' => $plan->isReached,
            'remaining' => $plan->remaining,
        ]]);
    }
}
