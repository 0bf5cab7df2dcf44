<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Hardware\InterfaceDesk;
use Hafen\Document\JsonNode;
use Hafen\Hardware\LevelAdvice;
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

    /** What to change at inputs, after their loudest passage was played. */
    public function levels(Request $request): JsonResponse
    {
        $profile = $this->desk->profile();
        $advice = [];
        foreach (JsonBody::of($request)->keys(['inputs'])->get('inputs')->items(InterfacePorts::INPUTS) as $input) {
            $port = $input->keys(['input', 'readings'])->get('input')->integer(1, InterfacePorts::INPUTS);
            $gain = $profile->inputs[$port]->gain;
            $found = LevelAdvice::of(array_map(self::reading(...), $input->get('readings')->items()), $gain);
            $advice[$port] = ['change' => $found->change, 'gain' => round($gain + $found->change, 1), 'text' => $found->text];
        }

        return new JsonResponse(['advice' => (object) $advice]);
    }

    /** @return array{?float, ?float, int} */
    private static function reading(JsonNode $node): array
    {
        [$peak, $average, $clipped] = $node->items(3) + [null, null, null];
        $level = static fn (?JsonNode $level): ?float => $level?->value === null ? null : $level->number(-400.0, 400.0, 'dBFS');

        return [$level($peak), $level($average), $clipped?->integer(0, 1 << 40) ?? throw $node->expected('peak, average and clipped samples')];
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
