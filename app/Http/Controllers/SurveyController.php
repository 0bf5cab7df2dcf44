<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\StoredSession;
use App\Surveys\SurveyDesk;
use Illuminate\Http\JsonResponse;

final readonly class SurveyController
{
    public function __construct(private SurveyDesk $desk)
    {
    }

    public function show(StoredSession $session): JsonResponse
    {
        return new JsonResponse($this->desk->state($session));
    }

    public function store(StoredSession $session): JsonResponse
    {
        $this->desk->request($session);

        return new JsonResponse($this->desk->state($session), 202);
    }
}
