<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\StoredSession;
use App\Performers\PerformerDesk;
use Hafen\Edit\Channel\PerformerFader;
use Illuminate\Contracts\View\View;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** The page of whoever hears a cue, and what is set on it. */
final readonly class PerformerController
{
    public function __construct(private PerformerDesk $desk)
    {
    }

    public function open(StoredSession $session, string $channel): JsonResponse
    {
        return new JsonResponse($this->desk->address($this->desk->open($session, $channel)));
    }

    public function close(StoredSession $session, string $channel): Response
    {
        $this->desk->close($session, $channel);

        return new Response('', 204);
    }

    /** It says by itself where its key is not known. */
    public function page(): View
    {
        return view('performer');
    }

    public function show(string $key): JsonResponse
    {
        return new JsonResponse($this->desk->state($this->desk->find($key)));
    }

    public function update(Request $request, string $key): JsonResponse
    {
        $page = $this->desk->find($key);
        $body = JsonBody::of($request)->keys(['fader', 'gain'], ['gesture']);
        $fader = PerformerFader::from($body->get('fader')->oneOf(array_column(PerformerFader::cases(), 'value')));
        $this->desk->set($page, $fader, $body->get('gain')->gain($fader->lowest(), $fader->highest()), $body->optional('gesture')?->text(1, 40));

        return new JsonResponse($this->desk->state($page));
    }
}
