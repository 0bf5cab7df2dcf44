<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Folder;
use App\Presets\FolderShelf;
use Hafen\Document\SessionCodec;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** One's own shelves in the finder: favourites, and folders by name. */
final readonly class FolderController
{
    public function __construct(private FolderShelf $shelf, private SessionCodec $sessions)
    {
    }

    public function index(): JsonResponse
    {
        return new JsonResponse($this->shelf->all());
    }

    /** `folder` is null for the favourites. Answers with all shelves. */
    public function update(Request $request): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['folder', 'processor', 'in']);
        $folder = $body->get('folder');
        $name = $folder->value === null ? Folder::FAVOURITES : trim($folder->text(1, 60));
        if ($folder->value !== null && $name === '') {
            throw $folder->expected('a name that is not blank');
        }
        $this->shelf->put($name, $this->sessions->processorId($body->get('processor')), $body->get('in')->boolean());

        return $this->index();
    }
}
