<?php

declare(strict_types=1);

use App\Listening\Frames;
use App\Listening\ListeningStream;
use App\Models\Listening;
use App\Models\StoredSession;

/**
 * Listens, and looks at each frame.
 *
 * @param  array<string, mixed>  $options
 * @param  callable(string, array<string, mixed>, string): bool  $look  gets the kind, data or levels of it, and the listening; false closes the browser
 */
function listenTo(StoredSession $session, array $options, callable $look, int $from = 0): void
{
    $id = test()->postJson("/api/sessions/{$session->id}/listenings", $options)->assertCreated()->json('id');
    $frames = app(ListeningStream::class)->frames(Listening::query()->findOrFail($id), $from);
    foreach ($frames as $frame) {
        if ($frame === Frames::HEADER) {
            continue;
        }
        $payload = substr($frame, 5);
        $data = match ($frame[0]) {
            'L', 'N' => json_decode($payload, true),
            'A' => ['position' => (int) unpack('e', $payload)[1], 'left' => array_values(unpack('g*', substr($payload, 12, 4 * unpack('V', substr($payload, 8, 4))[1])))],
            default => [],
        };
        if (! $look($frame[0], $data, $id)) {
            break;
        }
    }
    unset($frames);
}
