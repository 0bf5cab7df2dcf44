<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Hardware\InterfaceDesk;
use Hafen\Session\Channel\InterfacePorts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** How the audio interface is set, and which of its inputs clipped. */
final readonly class InterfaceController
{
    public function __construct(private InterfaceDesk $desk)
    {
    }

    public function show(): JsonResponse
    {
        return new JsonResponse($this->desk->state());
    }

    public function update(Request $request): JsonResponse
    {
        $body = JsonBody::of($request);
        if ($body->has('clear')) {
            $this->desk->clear($body->keys(['clear'])->get('clear')->integer(1, InterfacePorts::INPUTS));
        } else {
            $this->desk->change($body);
        }

        return new JsonResponse($this->desk->state());
    }
}
