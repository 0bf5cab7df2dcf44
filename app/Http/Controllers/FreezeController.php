<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Freezes\FreezeDesk;
use App\Models\FreezeBatch;
use App\Models\StoredSession;
use Hafen\Audio\SampleFormat;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Printing\FreezeOptions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final readonly class FreezeController
{
    private const MOST = 512;

    public function __construct(private FreezeDesk $desk)
    {
    }

    public function store(Request $request, StoredSession $session): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['channels'], ['tail', 'format']);
        $channels = array_map(static fn (JsonNode $node): string => $node->id(), $body->get('channels')->items(self::MOST));
        if ($channels === []) {
            throw $body->get('channels')->expected('the id of at least one channel');
        }
        $format = SampleFormat::from($body->optional('format')?->oneOf(array_column(FreezeOptions::FORMATS, 'value')) ?? SampleFormat::Float32->value);

        return new JsonResponse(FreezeDesk::state($this->desk->request($session, $channels, new FreezeOptions(SessionCodec::tail($body->optional('tail')), $format))), 202);
    }

    /** The freezes of a session that are being made; null where there are none. */
    public function index(StoredSession $session): JsonResponse
    {
        $batch = $this->desk->running($session);

        return new JsonResponse(['running' => $batch === null ? null : FreezeDesk::state($batch)]);
    }

    public function show(FreezeBatch $freezes): JsonResponse
    {
        return new JsonResponse(FreezeDesk::state($freezes));
    }

    public function stop(FreezeBatch $freezes): JsonResponse
    {
        $this->desk->stop($freezes);

        return new JsonResponse(FreezeDesk::state($freezes->refresh()));
    }
}
