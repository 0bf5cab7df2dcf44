<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Hardware\ThroughHardware;
use App\Http\AddressNumber;
use App\Models\Media;
use App\Models\StoredSession;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Surveys\SurveyFigures;
use Hafen\Document\SessionCodec;
use Hafen\Hardware\AudioInterface;
use Hafen\Headroom\Stage;
use Hafen\Headroom\StagesOfPath;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Survey\LoudestMoment;
use Hafen\Survey\TimeRange;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** The stages of all paths, and what fills the main at a moment. */
final readonly class HeadroomController
{
    public function __construct(private SessionBook $book, private ProcessorCatalogue $processors, private EngineFactory $engines, private ThroughHardware $hardware)
    {
    }

    public function paths(StoredSession $session): JsonResponse
    {
        $opened = $this->book->open($session);
        $fixed = Media::query()->whereIn('format', ['8', '16', '24', '32'])->pluck('id')->all();
        $isFixed = static fn (string $file): bool => in_array($file, $fixed, true);
        $paths = [];
        foreach ($opened->channels as $channel) {
            $paths[$channel->id] = array_map(static fn (Stage $stage): array => [
                'channel' => $stage->channel,
                'tap' => $stage->tap,
                'label' => $stage->label,
                'short' => $stage->shortName,
                'offset' => $stage->offset,
                'levelDependent' => $stage->levelDependent,
                'above' => $stage->aboveFullScale(),
            ], StagesOfPath::of($opened, $this->processors, $channel, $isFixed));
        }

        return new JsonResponse(['paths' => (object) $paths]);
    }

    /** What each channel brings to the highest sample around a position. */
    public function moment(Request $request, StoredSession $session): JsonResponse
    {
        $opened = $this->book->open($session);
        $at = min($opened->length, AddressNumber::of($request, 'at', 0, 0, SessionCodec::LONGEST));
        $moment = $opened->length === 0 ? null : $this->hardware->atOnce(
            $opened,
            null,
            fn (?AudioInterface $interface): ?LoudestMoment => $this->engines->survey($opened->sampleRate, $interface)->measure($opened, TimeRange::around($opened, $at))?->loudest(),
        );

        return new JsonResponse(['moment' => $moment === null ? null : SurveyFigures::moment($moment)]);
    }
}
