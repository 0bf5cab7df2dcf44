<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\AddressNumber;
use App\Models\StoredSession;
use App\Surveys\SurveyDesk;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Survey\TimeRange;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final readonly class SurveyController
{
    public function __construct(private SurveyDesk $desk)
    {
    }

    public function show(Request $request, StoredSession $session): JsonResponse
    {
        $from = AddressNumber::optional($request, 'from', 0, SessionCodec::LONGEST - 1);
        $to = $from === null ? null : AddressNumber::optional($request, 'to', $from + 1, SessionCodec::LONGEST);
        $range = $from === null || $to === null ? null : new TimeRange($from, $to);

        return new JsonResponse($this->desk->state($session, $range));
    }

    /** Has all of the session measured, or a range of it; what is on screen first. */
    public function store(Request $request, StoredSession $session): JsonResponse
    {
        $body = self::body($request);
        $range = self::range($body);
        $this->desk->request($session, $range, $body?->optional('first')?->ids() ?? []);

        return new JsonResponse($this->desk->state($session, $range), 202);
    }

    public function stop(Request $request, StoredSession $session): JsonResponse
    {
        $range = self::range(self::body($request));
        $this->desk->stop($session, $range);

        return new JsonResponse($this->desk->state($session, $range));
    }

    /** What is to be measured, and in which order; null is all of the session. */
    private static function body(Request $request): ?JsonNode
    {
        return in_array($request->getContent(), ['', '[]'], true) ? null : JsonBody::of($request)->keys([], ['from', 'to', 'first']);
    }

    private static function range(?JsonNode $body): ?TimeRange
    {
        if ($body === null || (! $body->has('from') && ! $body->has('to'))) {
            return null;
        }
        $from = $body->get('from')->integer(0, 1 << 40);

        return new TimeRange($from, $body->get('to')->integer($from + 1, 1 << 40));
    }
}
