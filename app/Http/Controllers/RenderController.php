<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\DiskRoom;
use App\Media\MediaFolder;
use App\Models\Render;
use App\Models\StoredSession;
use App\Sessions\DocumentDifference;
use App\Sessions\SessionBook;
use App\Work\Claim;
use Hafen\Audio\SampleFormat;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Engine\Tap;
use Hafen\Printing\RenderOptions;
use Hafen\Printing\RenderRefused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

final class RenderController
{
    public function store(Request $request, StoredSession $session, SessionBook $book, DiskRoom $room): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['format'], ['tap', 'from', 'to', 'tail', 'name', 'clip']);
        $opened = $book->open($session);
        $name = $body->optional('name')?->text(1, 120) ?? $opened->name;
        $options = [
            'format' => $body->get('format')->oneOf(array_column(RenderOptions::FORMATS, 'value')),
            'tap' => self::tap($body->optional('tap')),
            'from' => $body->optional('from')?->integer(0, SessionCodec::LONGEST) ?? 0,
            'to' => $body->optional('to')?->integer(1, SessionCodec::LONGEST),
            // Somebody wants it although it clips.
            'clip' => $body->optional('clip')?->boolean() ?? false,
            'tail' => $body->optional('tail')?->number(0.0, 600.0, 's') ?? 0.0,
        ];
        $wanted = new RenderOptions(SampleFormat::from($options['format']), null, $options['from'], $options['to'], $options['tail']);
        $most = RenderOptions::LONGEST * $opened->sampleRate;
        if ($wanted->frames($opened) > $most) {
            throw RenderRefused::tooLong($wanted->frames($opened), $most);
        }
        $room->need($wanted->bytes($opened), $name);
        $render = Render::query()->create([
            'session_id' => $session->id,
            'document' => DocumentDifference::full($session->document),
            'name' => $name,
            'status' => 'waiting',
            'options' => $options,
        ]);
        Claim::queue($render);

        return new JsonResponse(self::state($render->refresh()), 202);
    }

    public function show(Render $render): JsonResponse
    {
        return new JsonResponse(self::state($render));
    }

    public function stop(Render $render): JsonResponse
    {
        Render::query()->whereKey($render->id)->where('status', 'running')->update(['status' => 'stopping']);
        Render::query()->whereKey($render->id)->where('status', 'waiting')->update(['status' => 'stopped', 'message' => 'Stopped before it began.']);

        return new JsonResponse(self::state($render->refresh()));
    }

    public function file(Render $render, MediaFolder $folder): BinaryFileResponse
    {
        abort_unless($render->status === 'done' && is_file($folder->render($render->id)), 404);
        $name = trim((string) preg_replace('#[/\\\\:*?"<>|\x00-\x1F]+#u', '-', $render->name)) ?: 'mix';

        return response()->download($folder->render($render->id), "{$name}.wav", ['Content-Type' => 'audio/wav']);
    }

    private static function tap(?JsonNode $node): ?string
    {
        if ($node === null || $node->value === null) {
            return null;
        }
        $text = $node->text(1, 140);

        return Tap::fromString($text) === null ? throw $node->expected('a tap such as "cello:pre-fader"') : $text;
    }

    /** @return array<string, mixed> */
    private static function state(Render $render): array
    {
        return [
            'id' => $render->id,
            'name' => $render->name,
            'status' => $render->status,
            'progress' => $render->progress,
            'message' => $render->message,
            'result' => $render->status === 'refused' ? null : $render->result,
            'clips' => $render->status === 'refused' ? $render->result : null,
        ];
    }
}
