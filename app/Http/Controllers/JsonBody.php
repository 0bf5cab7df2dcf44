<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Hafen\Session\JsonNode;
use Illuminate\Http\Request;

/** The body of a request as checked JSON. */
final class JsonBody
{
    private const MOST_BYTES = 4 << 20;

    public static function of(Request $request): JsonNode
    {
        return JsonNode::parse((string) $request->getContent(), self::MOST_BYTES);
    }
}
