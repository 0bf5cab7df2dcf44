<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\StoredSession;
use App\Sessions\SessionBook;
use App\Sessions\SessionState;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final readonly class EditController
{
    public function __construct(private SessionBook $book, private SessionState $state)
    {
    }

    public function store(Request $request, StoredSession $session): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['base', 'edit'], ['gesture']);

        return $this->answer($this->book->edit(
            $session->id,
            $body->get('base')->integer(0, PHP_INT_MAX),
            $body->get('edit'),
            $body->optional('gesture')?->text(1, 64),
        ));
    }

    public function undo(StoredSession $session): JsonResponse
    {
        return $this->answer($this->book->undo($session->id));
    }

    public function redo(StoredSession $session): JsonResponse
    {
        return $this->answer($this->book->redo($session->id));
    }

    public function goTo(StoredSession $session, int $revision): JsonResponse
    {
        return $this->answer($this->book->goTo($session->id, $revision));
    }

    private function answer(StoredSession $stored): JsonResponse
    {
        return new JsonResponse($this->state->of($stored));
    }
}
