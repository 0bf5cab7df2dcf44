<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\MediaFolder;
use App\Media\MediaLibrary;
use Hafen\Document\SessionCodec;
use Hafen\Engine\LibraryAudioFiles;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final readonly class ProcessorController
{
    public function __construct(private ProcessorCatalogue $processors)
    {
    }

    public function index(): JsonResponse
    {
        return new JsonResponse(array_map(static fn (ProcessorSpec $spec): array => $spec->toArray(), $this->processors->specs()));
    }

    public function picture(Request $request, string $processor, SessionCodec $codec, MediaFolder $media): JsonResponse
    {
        abort_unless($this->processors->has($processor), 404);
        $body = JsonBody::of($request)->keys(['parameters', 'sampleRate', 'tempo']);
        $rate = $body->get('sampleRate')->integer(8000, 384_000);
        $picture = $this->processors->picture(
            $processor,
            $codec->parameters($body->get('parameters'), $processor),
            new Setting($rate, $body->get('tempo')->number(20.0, 400.0, 'BPM'), new LibraryAudioFiles(new MediaLibrary($media, $rate))),
        );

        return new JsonResponse(['picture' => $picture?->toArray()]);
    }
}
