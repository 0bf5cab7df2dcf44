<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Engine\Tap;
use Hafen\Session\Session;

/** The list that goes with printed files: a line for each, with tabs between. */
final class StemList
{
    /**
     * @param  array<array-key, string>  $files  names by tap id
     * @param  array<array-key, PrintResult>  $results  by tap id
     */
    public static function of(Session $session, array $files, array $results): string
    {
        $lines = ["file\tchannel\ttap\tsamples"];
        foreach ($results as $id => $result) {
            $tap = Tap::fromString((string) $id);
            $lines[] = implode("\t", [$files[$id] ?? '', $session->channel($tap->channel ?? '')->name ?? '', $tap->stage ?? '', (string) $result->frames]);
        }

        return implode("\n", $lines)."\n";
    }
}
