<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Media;
use App\Models\Render;
use App\Models\StoredSession;
use App\Storage\Storage;
use Illuminate\Http\JsonResponse;

/** What lies on the disk. Whatever is removed, the answer is what is there then. */
final readonly class StorageController
{
    public function __construct(private Storage $storage)
    {
    }

    public function show(): JsonResponse
    {
        return new JsonResponse($this->storage->contents());
    }

    public function removeMedia(Media $media): JsonResponse
    {
        $this->storage->removeMedia($media);

        return $this->show();
    }

    public function removeUnusedMedia(): JsonResponse
    {
        $this->storage->removeUnusedMedia();

        return $this->show();
    }

    public function removeCaptured(): JsonResponse
    {
        $this->storage->removeCaptured();

        return $this->show();
    }

    public function removeRender(Render $render): JsonResponse
    {
        $this->storage->removeRender($render);

        return $this->show();
    }

    public function removeSession(StoredSession $session): JsonResponse
    {
        $this->storage->removeSession($session);

        return $this->show();
    }

    public function thin(StoredSession $session): JsonResponse
    {
        $this->storage->thin($session);

        return $this->show();
    }
}
