<?php

declare(strict_types=1);

namespace App\Http;

use App\Sessions\StaleEdit;
use Hafen\Refusal;
use Illuminate\Http\JsonResponse;

/** A refusal as an answer: where, and what to do. */
final class RefusalResponse
{
    public static function of(Refusal $refusal): JsonResponse
    {
        $body = ['place' => $refusal->place, 'message' => $refusal->getMessage()];
        if ($refusal instanceof StaleEdit) {
            return new JsonResponse([...$body, 'changed' => $refusal->changed, 'change' => $refusal->change], 409);
        }

        return new JsonResponse($body, 422);
    }
}
