<?php

declare(strict_types=1);

namespace App\Sessions;

/**
 * What one document has that another has not, small enough to keep one for every edit.
 *
 * A document is cut before every "{"; pieces that stand in the other are named by their place there, runs of them by the first and
 * how many; the rest is kept. All of it is compressed (RFC 1951).
 */
final class DocumentDifference
{
    /** Bytes by which to find `$document` again from `$base`. */
    public static function between(string $base, string $document): string
    {
        $places = [];
        foreach ($from = self::pieces($base) as $index => $piece) {
            $places[$piece] ??= $index;
        }
        $steps = [];
        $first = $count = 0;
        $kept = '';
        foreach (self::pieces($document) as $piece) {
            // A run goes on as long as the same pieces follow in both.
            if ($count > 0 && ($from[$first + $count] ?? null) === $piece) {
                ++$count;

                continue;
            }
            if ($count > 0) {
                $steps[] = [$first, $count];
                $count = 0;
            }
            if (isset($places[$piece])) {
                if ($kept !== '') {
                    $steps[] = $kept;
                    $kept = '';
                }
                $first = $places[$piece];
                $count = 1;
            } else {
                $kept .= $piece;
            }
        }
        if ($count > 0) {
            $steps[] = [$first, $count];
        }
        if ($kept !== '') {
            $steps[] = $kept;
        }

        return (string) gzdeflate(json_encode($steps, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES), 9);
    }

    /** @throws UnreadableRevision when the bytes are none of {@see between()} */
    public static function apply(string $base, string $difference): string
    {
        $steps = json_decode(self::inflated($difference), true);
        if (! is_array($steps)) {
            throw UnreadableRevision::damaged();
        }
        $from = self::pieces($base);
        $document = '';
        foreach ($steps as $step) {
            if (is_array($step) && is_int($step[0] ?? null) && is_int($step[1] ?? null)) {
                $document .= implode('', array_slice($from, $step[0], $step[1]));
            } elseif (is_string($step)) {
                $document .= $step;
            }
        }

        return $document;
    }

    public static function full(string $document): string
    {
        return (string) gzdeflate($document, 9);
    }

    /** @throws UnreadableRevision when the bytes cannot be read */
    public static function inflated(string $bytes): string
    {
        $text = @gzinflate($bytes);

        return $text === false ? throw UnreadableRevision::damaged() : $text;
    }

    /** @return list<string> */
    private static function pieces(string $document): array
    {
        return preg_split('/(?=\{)/', $document) ?: [];
    }
}
