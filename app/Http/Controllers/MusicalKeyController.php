<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\MediaFolder;
use App\Media\MediaLibrary;
use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Audio\Samples;
use Hafen\Edit\Refusals\NoSuchChannel;
use Hafen\Engine\ClipPlayer;
use Hafen\Metering\MusicalKey;
use Hafen\Session\Source\ClipSource;
use Illuminate\Http\JsonResponse;

/** The key a track's recordings are most likely in. */
final readonly class MusicalKeyController
{
    /** As much of the recordings as is listened to. */
    private const SECONDS = 60;

    public function __construct(private SessionBook $book, private MediaFolder $media)
    {
    }

    public function show(StoredSession $session, string $channel): JsonResponse
    {
        $document = $this->book->open($session);
        $found = $document->channel($channel) ?? throw NoSuchChannel::withId($channel);
        if (! $found->source instanceof ClipSource || $found->source->clips === []) {
            return new JsonResponse(['key' => null]);
        }
        $player = new ClipPlayer(new MediaLibrary($this->media, $document->sampleRate), $document->sampleRate);
        $player->set($found->source->clips, $found->width);
        $start = min(array_map(static fn ($clip): int => $clip->start, $found->source->clips));
        $block = $player->read($start, min($document->length - $start, self::SECONDS * $document->sampleRate));
        $estimate = MusicalKey::of(Samples::mid($block->left, $block->right()), $document->sampleRate);

        return new JsonResponse($estimate === null ? ['key' => null] : ['key' => $estimate->key, 'scale' => $estimate->scale, 'lead' => round($estimate->lead, 3)]);
    }
}
