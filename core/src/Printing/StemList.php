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
     * @param  bool  $withReturns  what the returns bring of each channel is in its file
     */
    public static function of(Session $session, array $files, array $results, bool $withReturns = false): string
    {
        $rows = [];
        foreach ($results as $id => $result) {
            $tap = Tap::fromString((string) $id);
            $stage = $withReturns ? 'to the main, with returns' : $tap->stage ?? '';
            $rows[] = [$files[$id] ?? '', $session->channel($tap->channel ?? '')->name ?? '', $stage, (string) $result->frames];
        }

        return self::text($rows);
    }

    /**
     * The list of one file that holds several channels.
     *
     * @param  list<string>  $channels  ids
     */
    public static function ofOne(Session $session, string $file, array $channels, string $tap, PrintResult $result): string
    {
        return self::text(array_map(static fn (string $id): array => [$file, $session->channel($id)->name ?? $id, $tap, (string) $result->frames], $channels));
    }

    /** @param  list<list<string>>  $rows */
    private static function text(array $rows): string
    {
        return implode('', array_map(static fn (array $row): string => implode("\t", $row)."\n", [['file', 'channel', 'tap', 'samples'], ...$rows]));
    }
}
