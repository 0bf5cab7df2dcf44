<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Media\MediaFolder;
use App\Models\Render;
use App\Sessions\EngineFactory;
use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Engine\Fault;
use Hafen\Engine\Tap;
use Hafen\Printing\Renderer;
use Hafen\Printing\RenderOptions;
use Hafen\Printing\RenderStopped;
use Hafen\Refusal;
use Hafen\Session\SessionCodec;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Renders a session to a file, as it was when the render was asked for. */
final class RenderSession implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly string $renderId)
    {
    }

    public function handle(SessionCodec $codec, EngineFactory $engines, MediaFolder $folder): void
    {
        $render = Render::query()->findOrFail($this->renderId);
        if (Render::query()->whereKey($render->id)->where('status', 'waiting')->update(['status' => 'running', 'beat_at' => now()]) === 0) {
            return;
        }
        try {
            $session = $codec->decode($render->document);
            $result = (new Renderer($engines->compiler($session->sampleRate)))->render(
                $session,
                $folder->render($render->id),
                self::options($render->options),
                (new Heartbeat($render))->beat(...),
            );
        } catch (RenderStopped) {
            $render->update(['status' => 'stopped', 'message' => 'Stopped. Nothing was written.']);

            return;
        } catch (Refusal $refusal) {
            $render->update(['status' => 'failed', 'message' => $refusal->getMessage()]);

            return;
        }
        $render->update(['status' => 'done', 'progress' => 1.0, 'result' => [
            'frames' => $result->frames,
            'peak' => Decibel::fromGain($result->peak),
            'peakAt' => $result->peakAt,
            'clipped' => $result->clipped,
            'firstClip' => $result->firstClip,
            'faults' => array_map(static fn (Fault $fault): string => $fault->channel, $result->faults),
        ]]);
    }

    public function failed(?Throwable $exception): void
    {
        Render::query()->whereKey($this->renderId)->update(['status' => 'failed', 'message' => 'The render stopped unexpectedly. Start it again.']);
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
