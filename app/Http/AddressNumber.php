<?php

declare(strict_types=1);

namespace App\Http;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Illuminate\Http\Request;

/** A whole number in an address: "?from=48000". */
final class AddressNumber
{
    /** @throws InvalidDocument naming the key, what was found and what is allowed */
    public static function of(Request $request, string $key, int $default, int $least, int $most): int
    {
        return self::optional($request, $key, $least, $most) ?? $default;
    }

    /** @throws InvalidDocument */
    public static function optional(Request $request, string $key, int $least, int $most): ?int
    {
        $text = $request->query($key);
        if ($text === null) {
            return null;
        }
        $isWhole = is_string($text) && preg_match('/^-?\d{1,15}$/D', $text) === 1;

        return (new JsonNode($isWhole ? (int) $text : $text, $key))->integer($least, $most);
    }
}
