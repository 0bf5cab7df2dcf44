<?php

declare(strict_types=1);

namespace App\Http;

use App\Listening\AllListening;
use App\Media\DiskFull;
use App\Performers\NoSuchPage;
use App\Sessions\StaleEdit;
use Hafen\Edit\Refusals\ChannelsAreFrozen;
use Hafen\Edit\Refusals\UnitIsTaken;
use Hafen\Refusal;
use Illuminate\Http\JsonResponse;
use PDOException;

/** A refusal as an answer: where, and what to do. */
final class RefusalResponse
{
    public static function of(Refusal $refusal): JsonResponse
    {
        $body = ['location' => $refusal->location, 'message' => $refusal->getMessage()];
        if ($refusal instanceof StaleEdit) {
            return new JsonResponse([...$body, 'changed' => $refusal->changed, 'change' => $refusal->change], 409);
        }

        if ($refusal instanceof ChannelsAreFrozen) {
            $body['unfreeze'] = $refusal->channels;
        }

        if ($refusal instanceof UnitIsTaken) {
            $body['taken'] = ['loop' => $refusal->loop, 'channels' => $refusal->channels];
        }

        return new JsonResponse($body, match (true) {
            $refusal instanceof DiskFull => 507,
            $refusal instanceof AllListening => 503,
            $refusal instanceof NoSuchPage => 404,
            default => 422,
        });
    }

    /** A full disk or a busy database said plainly; null for what is a fault of ours. */
    public static function ofDatabase(PDOException $exception): ?JsonResponse
    {
        $said = $exception->getMessage();

        return match (true) {
            str_contains($said, 'disk is full') || str_contains($said, 'disk I/O error') => self::of(DiskFull::now()),
            str_contains($said, 'database is locked') => new JsonResponse(['location' => 'server', 'message' => 'The database was busy for too long; nothing was stored. Try again.'], 503),
            default => null,
        };
    }
}
