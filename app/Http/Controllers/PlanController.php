<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\StoredSession;
use App\Plans\PlanChoice;
use App\Plans\PlanDesk;
use Hafen\Document\JsonNode;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** What remedies would do; asked again and again until it is known. */
final readonly class PlanController
{
    private const MOST = 24;

    public function __construct(private PlanDesk $desk)
    {
    }

    public function store(Request $request, StoredSession $session): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['aim', 'plans'], ['again']);
        $aim = PlanChoice::aim($body->get('aim'));
        $choices = array_map(static fn (JsonNode $choice): PlanChoice => PlanChoice::of($choice, $aim), $body->get('plans')->items(self::MOST));

        return new JsonResponse($this->desk->plans($session, $choices, $body->optional('again')?->boolean() ?? false));
    }

    public function stop(StoredSession $session): Response
    {
        $this->desk->stop($session);

        return new Response(status: 204);
    }
}
