<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\MediaFolder;
use App\Media\MediaLibrary;
use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Edit\Refusals\NoSuchChannel;
use Hafen\Engine\ChannelKey;
use Illuminate\Http\JsonResponse;

/** Finds the musical key of a track. */
final readonly class MusicalKeyController
{
    public function __construct(private SessionBook $book, private MediaFolder $media)
    {
    }

    public function show(StoredSession $session, string $channel): JsonResponse
    {
        $document = $this->book->open($session);
        $found = $document->channel($channel) ?? throw NoSuchChannel::withId($channel);
        $estimate = ChannelKey::of($document, $found, new MediaLibrary($this->media, $document->sampleRate));

        return new JsonResponse($estimate === null ? ['key' => null] : ['key' => $estimate->key, 'scale' => $estimate->scale, 'lead' => round($estimate->lead, 3)]);
    }
}
