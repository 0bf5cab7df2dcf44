<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Hardware\ThroughHardware;
use App\Hardware\UnitUse;
use App\Media\DiskRoom;
use App\Media\MediaFolder;
use App\Models\Render;
use App\Sessions\DocumentDifference;
use App\Sessions\EngineFactory;
use App\Work\Claim;
use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Document\SessionCodec;
use Hafen\Engine\Fault;
use Hafen\Engine\Tap;
use Hafen\Hardware\AudioInterface;
use Hafen\Metering\OverRegion;
use Hafen\Printing\ExportGate;
use Hafen\Printing\Renderer;
use Hafen\Printing\RenderOptions;
use Hafen\Printing\RenderResult;
use Hafen\Printing\RenderStopped;
use Hafen\Session\Session;
use Hafen\Survey\SessionSurvey;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Renders a session to a file, as it was when the render was asked for. */
final class RenderSession implements ShouldQueue
{
    use Queueable;

    /** Places that are told one by one. */
    private const PLACES = 5;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly string $renderId)
    {
    }

    public function handle(SessionCodec $codec, EngineFactory $engines, MediaFolder $folder, DiskRoom $room, ThroughHardware $hardware): void
    {
        $this->job?->delete();
        $render = Render::query()->findOrFail($this->renderId);
        Claim::work($render, static function (Claim $claim) use ($render, $codec, $engines, $folder, $room, $hardware): void {
            $session = $codec->decode(DocumentDifference::inflated($render->document));
            $options = self::options($render->options);
            try {
                $result = $hardware->work($session, null, $claim, UnitUse::Asked, static function (?AudioInterface $interface) use ($claim, $render, $session, $options, $engines, $folder, $room): ?RenderResult {
                    if (($render->options['clip'] ?? false) !== true && ! self::passes($claim, $render, $session, $options, $engines->lastingSurvey($session->sampleRate, $interface))) {
                        return null;
                    }
                    $room->need($options->bytes($session), $render->name);

                    return (new Renderer($engines->compiler($session->sampleRate, $interface), $engines->processes($session->sampleRate)))->render($session, $folder->render($render->id), $options, $claim->beat(...));
                });
            } catch (RenderStopped) {
                if (! $claim->isLeaving()) {
                    $claim->finish(['status' => 'stopped', 'message' => 'Stopped. Nothing was written.']);
                }

                return;
            }
            if ($result === null) {
                return;
            }
            $claim->finish(['status' => 'done', 'progress' => 1.0, 'result' => [
                'frames' => $result->frames,
                'peak' => Decibel::fromGain($result->peak),
                'peakAt' => $result->peakAt,
                'clipped' => $result->clipped,
                'firstClip' => $result->firstClip,
                'faults' => array_map(static fn (Fault $fault): string => $fault->channel, $result->faults),
            ]]);
        });
    }

    /**
     * Whether the render may begin; measures what it needs for that.
     *
     * @throws RenderStopped
     */
    private static function passes(Claim $claim, Render $render, Session $session, RenderOptions $options, SessionSurvey $survey): bool
    {
        $clips = ExportGate::ask($session, $options, $survey, $claim->beat(...));
        if ($clips === null) {
            return true;
        }
        $claim->finish(['status' => 'refused', 'message' => sprintf(
            'Stopped before it began: %d %s would clip, by up to %s.',
            $clips->samples,
            $clips->samples === 1 ? 'sample' : 'samples',
            Decibel::text($clips->peak),
        ), 'result' => [
            'peak' => $clips->peak,
            'samples' => $clips->samples,
            'first' => $clips->first,
            'places' => array_map(static fn (OverRegion $region): array => [
                'from' => $region->from,
                'samples' => $region->samples,
                'peak' => Decibel::fromGain($region->peak),
            ], array_slice($clips->places, 0, self::PLACES)),
            'morePlaces' => max(0, count($clips->places) - self::PLACES),
        ]]);

        return false;
    }

    /** @param  array<string, mixed>  $options stored by the controller, checked there */
    private static function options(array $options): RenderOptions
    {
        /** @var array{format: string, tap: ?string, from: int, to: ?int, tail: float|int} $options */
        return new RenderOptions(
            SampleFormat::from($options['format']),
            $options['tap'] === null ? null : Tap::fromString($options['tap']),
            $options['from'],
            $options['to'],
            (float) $options['tail'],
        );
    }
}
