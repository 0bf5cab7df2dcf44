<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Illuminate\Http\Request;

/** The body of a request as checked JSON. */
final class JsonBody
{
    private const MOST_BYTES = 4 << 20;

    public static function of(Request $request): JsonNode
    {
        $announced = (int) $request->headers->get('Content-Length', '0');
        if ($announced > self::MOST_BYTES) {
            // Not read at all.
            throw InvalidDocument::tooLarge($announced, self::MOST_BYTES);
        }

        return JsonNode::parse((string) $request->getContent(), self::MOST_BYTES);
    }
}
