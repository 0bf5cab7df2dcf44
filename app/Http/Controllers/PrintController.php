<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\MediaFolder;
use App\Models\PrintBatch;
use App\Models\StoredSession;
use App\Prints\PrintDesk;
use App\Prints\PrintWish;
use App\Sessions\SessionBook;
use Hafen\Audio\SampleFormat;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Document\SourceCodec;
use Hafen\Edit\Print\AfterPrint;
use Hafen\Printing\FreezeOptions;
use Hafen\Printing\PrintAdvice;
use Hafen\Printing\PrintOptions;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Source\PrintedFrom;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** Freezes and prints channels. */
final readonly class PrintController
{
    private const MOST = 512;

    public function __construct(private PrintDesk $desk)
    {
    }

    public function freeze(Request $request, StoredSession $session): JsonResponse
    {
        $body = JsonBody::of($request)->keys(['channels'], ['tail', 'format']);
        $format = SampleFormat::from($body->optional('format')?->oneOf(array_column(FreezeOptions::FORMATS, 'value')) ?? SampleFormat::Float32->value);

        return new JsonResponse(PrintDesk::state($this->desk->freeze($session, self::channels($body), new FreezeOptions(SourceCodec::tail($body->optional('tail')), $format))), 202);
    }

    public function print(Request $request, StoredSession $session): JsonResponse
    {
        return new JsonResponse(PrintDesk::state($this->desk->print($session, self::wish(JsonBody::of($request)))), 202);
    }

    /** What to know before a print is made. */
    public function advice(Request $request, StoredSession $session, SessionBook $book, ProcessorCatalogue $processors): JsonResponse
    {
        $wish = self::wish(JsonBody::of($request));

        return new JsonResponse(['advice' => PrintAdvice::of($book->open($session), $processors, $wish->channels, $wish->tap, $wish->place(), $wish->together, $wish->withReturns)]);
    }

    /** The batch of a session that is being worked on; null where there is none. */
    public function index(StoredSession $session): JsonResponse
    {
        $batch = $this->desk->running($session);

        return new JsonResponse(['running' => $batch === null ? null : PrintDesk::state($batch)]);
    }

    public function show(PrintBatch $batch): JsonResponse
    {
        return new JsonResponse(PrintDesk::state($batch));
    }

    /** The files of a print that goes to files. */
    public function file(PrintBatch $batch, MediaFolder $folder): BinaryFileResponse
    {
        $path = $folder->archive($batch->id);
        abort_unless($batch->kind === 'files' && $batch->status === 'done' && is_file($path), 404);

        return response()->download($path, 'Prints.zip', ['Content-Type' => 'application/zip']);
    }

    public function stop(PrintBatch $batch): JsonResponse
    {
        $this->desk->stop($batch);

        return new JsonResponse(PrintDesk::state($batch->refresh()));
    }

    private static function wish(JsonNode $body): PrintWish
    {
        $body->keys(['channels', 'tap'], ['from', 'to', 'tail', 'format', 'inPlace', 'toFiles', 'together', 'withReturns', 'after', 'name']);

        return new PrintWish(
            self::channels($body),
            $body->get('tap')->oneOf(PrintedFrom::TAPS),
            new PrintOptions(
                $body->optional('from')?->integer(0, SessionCodec::LONGEST) ?? 0,
                $body->optional('to')?->integer(1, SessionCodec::LONGEST),
                SourceCodec::tail($body->optional('tail')),
                SampleFormat::from($body->optional('format')?->oneOf(array_column(PrintOptions::FORMATS, 'value')) ?? SampleFormat::Float32->value),
            ),
            $body->optional('inPlace')?->boolean() ?? false,
            $body->optional('toFiles')?->boolean() ?? false,
            $body->optional('together')?->boolean() ?? false,
            $body->optional('withReturns')?->boolean() ?? false,
            AfterPrint::from($body->optional('after')?->oneOf(array_column(AfterPrint::cases(), 'value')) ?? AfterPrint::Keep->value),
            $body->optional('name')?->text(1, 120) ?? '{channel} printed',
        );
    }

    /** @return non-empty-list<string> */
    private static function channels(JsonNode $body): array
    {
        $channels = array_values(array_unique($body->get('channels')->ids(self::MOST)));

        return $channels === [] ? throw $body->get('channels')->expected('the id of at least one channel') : $channels;
    }
}
